"use client";
import { usePathname, useRouter } from "next/navigation";
import { toast } from "sonner";
import type { Verdict } from "@/core/verdicts/types";
import { SeverityMark } from "../kit/Severity";
import { useDispatch, useWorkbench } from "./context";

const STEP_NAMES: Readonly<Record<string, string>> = { loads: "Loads", sources: "Sources", feeds: "Feeds", returns: "Returns" };

/** The part whose row a verdict is about. */
function rowOf(
  verdict: Verdict,
  wires: readonly { id: string; role: string; pair?: string | undefined; from: { part: string }; to: { part: string } }[],
): string | null {
  if (verdict.subject.kind === "part") return verdict.subject.id;
  const wire = wires.find(({ id }) => id === verdict.subject.id);
  if (!wire) return null;
  return wire.role === "return" || wire.pair !== undefined ? wire.from.part : wire.to.part;
}

/** Open verdicts of the step, each jumping to its row, each remedy one action that can be undone. */
export function VerdictColumn() {
  const step = usePathname().split("/").at(-1) ?? "";
  const id = useWorkbench((state) => state.id);
  const verdicts = useWorkbench((state) => state.analysis?.verdicts);
  const wires = useWorkbench((state) => state.machine.wires);
  const empty = useWorkbench((state) => state.machine.parts.length === 0);
  const select = useWorkbench((state) => state.select);
  const undo = useWorkbench((state) => state.undo);
  const { act } = useDispatch();
  const router = useRouter();
  const all = step === "sheet";
  const shown = verdicts?.filter((verdict) => all || verdict.step === step) ?? [];
  const elsewhere = (verdicts?.length ?? 0) - shown.length;

  const jump = (verdict: Verdict) => {
    const row = rowOf(verdict, wires);
    select(row);
    if (all) router.push(`/m/${id}/${verdict.step}`);
    else requestAnimationFrame(() => document.querySelector(`[data-row="${row}"]`)?.scrollIntoView({ block: "nearest" }));
  };
  const apply = (verdict: Verdict, index: number) => {
    const remedy = verdict.remedies[index];
    if (remedy && act(remedy.command)) toast(`Done: ${remedy.label}`, { action: { label: "Undo", onClick: () => undo() } });
  };

  return (
    <aside
      data-ready={verdicts ? "yes" : "no"}
      aria-label="Verdicts"
      className="no-print w-[300px] shrink-0 overflow-y-auto border-l border-ink px-4 pb-4 max-[1100px]:w-[260px]"
    >
      <h2 className="sticky top-0 z-10 border-b border-hair bg-paper pt-3 pb-2 text-base font-bold">
        Verdicts{" "}
        <span className="font-normal text-soft">
          {all ? "for the machine" : `for ${STEP_NAMES[step] ?? "this step"}`}
          {verdicts ? `, ${shown.length} open` : ", working them out…"}
        </span>
      </h2>
      {verdicts && shown.length === 0 && (
        <p className="py-3 text-sm text-soft">
          {empty
            ? "Nothing to judge yet. Add a source and what it feeds."
            : elsewhere > 0
              ? `Nothing here. ${elsewhere} open on other steps.`
              : "Clear: no rule found anything, and no figure it needs is missing."}
        </p>
      )}
      <ul>
        {shown.map((verdict) => (
          <li key={verdict.id} className="border-b border-hair py-2.5">
            <SeverityMark severity={verdict.severity} />
            <button
              type="button"
              className="mt-1 block w-full text-left text-sm leading-snug font-bold hover:underline"
              onClick={() => jump(verdict)}
            >
              {verdict.headline}
            </button>
            <p className="mt-1 text-xs leading-snug">{verdict.detail}</p>
            {verdict.remedies.length > 0 && (
              <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1 text-xs">
                {verdict.remedies.map((remedy, index) => (
                  <button key={remedy.label} type="button" className="link" onClick={() => apply(verdict, index)}>
                    {remedy.label}
                  </button>
                ))}
              </div>
            )}
          </li>
        ))}
      </ul>
    </aside>
  );
}
