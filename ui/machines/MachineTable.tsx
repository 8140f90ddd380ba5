"use client";
import { useRouter } from "next/navigation";
import { toast } from "sonner";
import type { MachineSummary, OverviewState } from "@/core/machine/summary";
import { duplicateMachine } from "@/state/api";
import { FigureTable } from "../grid/FigureTable";
import { ServerLink } from "../kit/ServerLink";
import { ago } from "./ago";
import { firstStep, MainVolts, Verdicts, WorstAmps } from "./OverviewCells";

interface Props {
  machines: readonly MachineSummary[];
  /** There is another one to compare with. */
  comparable: boolean;
  onRemove: (machine: MachineSummary) => void;
  onArchive: (machine: MachineSummary) => void;
}

/** How much is open of a machine, graver things outweighing any number of lesser ones; what nobody knows comes before what is clear. */
function gravity(overview: OverviewState): number {
  if (overview.kind !== "known") return -1;
  const { stops, fixes, watches, asks } = overview;
  return -(Math.min(stops, 999) * 1e9 + Math.min(fixes, 999) * 1e6 + Math.min(watches, 999) * 1e3 + Math.min(asks, 999));
}

const known = (overview: OverviewState) => (overview.kind === "known" ? overview : null);
const narrow = { headClass: "max-sm:hidden" } as const;

/** Machines with what is open of each, sorted as one likes. */
export function MachineTable({ machines, comparable, onRemove, onArchive }: Props) {
  const router = useRouter();
  const duplicate = async ({ id }: MachineSummary) => {
    const result = await duplicateMachine(id);
    if (!result.ok) return toast.error(result.detail);
    router.refresh();
  };
  return (
    <div className="overflow-x-auto">
      <FigureTable
        caption="Machines"
        rows={machines}
        keyOf={({ id }) => id}
        empty={<p className="py-6 text-sm text-soft">No machine on the list goes by these words.</p>}
        columns={[
          {
            label: "Machine",
            sortBy: ({ name }) => name.toLowerCase(),
            cellClass: "max-w-[360px] !whitespace-normal py-2",
            cell: ({ id, name, description, overview, archivedAt }) => (
              <>
                <ServerLink href={`/m/${id}/${firstStep(overview)}`} className="text-base font-bold break-words hover:underline">
                  {name}
                </ServerLink>
                {archivedAt !== null && <span className="text-xs text-soft"> put aside</span>}
                <span className="block text-xs text-soft max-sm:line-clamp-2">{description}</span>
              </>
            ),
          },
          {
            label: "Main",
            num: true,
            ...narrow,
            sortBy: ({ overview }) => known(overview)?.mainV ?? 0,
            cellClass: "fig max-sm:hidden",
            cell: ({ overview }) => <MainVolts overview={overview} />,
          },
          {
            label: "Worst",
            num: true,
            sortBy: ({ overview }) => -(known(overview)?.worstA ?? 0),
            cell: ({ overview }) => <WorstAmps overview={overview} />,
          },
          {
            label: "Parts",
            num: true,
            ...narrow,
            sortBy: ({ overview }) => -(known(overview)?.parts ?? 0),
            cellClass: "fig max-sm:hidden",
            cell: ({ overview }) => known(overview)?.parts ?? "–",
          },
          {
            label: "Open verdicts",
            sortBy: ({ overview }) => gravity(overview),
            cellClass: "max-sm:!whitespace-normal",
            cell: ({ overview }) => <Verdicts overview={overview} />,
          },
          {
            label: "Read",
            ...narrow,
            sortBy: ({ readAt }) => -Date.parse(readAt ?? "1970"),
            cellClass: "text-xs text-soft max-sm:hidden",
            cell: ({ readAt }) => <span suppressHydrationWarning>{readAt === null ? "–" : ago(readAt)}</span>,
          },
          {
            label: "Edited",
            ...narrow,
            sortBy: ({ updatedAt }) => -Date.parse(updatedAt || "1970"),
            cellClass: "text-xs text-soft max-sm:hidden",
            cell: ({ updatedAt }) => <span suppressHydrationWarning>{updatedAt === "" ? "–" : ago(updatedAt)}</span>,
          },
          {
            label: "Actions",
            hidden: true,
            cellClass: "text-xs",
            cell: (machine) => (
              <>
                <button
                  type="button"
                  className="link pr-3"
                  aria-label={`Duplicate ${machine.name}`}
                  onClick={() => void duplicate(machine)}
                >
                  Duplicate
                </button>
                {comparable && (
                  <ServerLink className="link pr-3" aria-label={`Compare ${machine.name}`} href={`/compare?a=${machine.id}`}>
                    Compare
                  </ServerLink>
                )}
                <a className="link pr-3" aria-label={`Export ${machine.name}`} href={`/api/machines/${machine.id}/export`} download>
                  Export
                </a>
                <button
                  type="button"
                  className="link pr-3"
                  aria-label={`${machine.archivedAt === null ? "Put" : "Take"} ${machine.name} ${machine.archivedAt === null ? "aside" : "back"}`}
                  onClick={() => onArchive(machine)}
                >
                  {machine.archivedAt === null ? "Put aside" : "Take back"}
                </button>
                <button type="button" className="link" aria-label={`Delete ${machine.name}`} onClick={() => onRemove(machine)}>
                  Delete
                </button>
              </>
            ),
          },
        ]}
      />
    </div>
  );
}
