import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { cache } from "react";
import { database } from "@/server/database";
import { machineAt } from "@/server/history";
import { getMachine, orUnreadable, UnreadableMachine } from "@/server/machines";
import { troubleShown } from "@/server/trouble-shown";
import { TroubleScreen } from "@/ui/machines/TroubleScreen";
import { UnreadableScreen } from "@/ui/machines/UnreadableScreen";
import { isStep } from "@/ui/workbench/step-names";
import { WorkbenchFrame } from "@/ui/workbench/WorkbenchFrame";

interface Props {
  params: Promise<{ id: string; step: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** Read once a request, for the title and the page: the machine as it is, or as it was at a revision. */
const found = cache((id: string, revision: string | undefined) =>
  troubleShown(() =>
    orUnreadable(() => {
      const now = getMachine(database(), id);
      if (revision === undefined || !now) return now && { ...now, at: null };
      const past = machineAt(database(), id, Number(revision));
      return past && { id, revision: Number(revision), ...past };
    }),
  ),
);

const wanted = async ({ params, searchParams }: Props) => {
  const [{ id, step }, { revision }] = await Promise.all([params, searchParams]);
  return { id, step, shown: found(id, typeof revision === "string" ? revision : undefined) };
};

export async function generateMetadata(props: Props): Promise<Metadata> {
  const { shown } = await wanted(props);
  if ("trouble" in shown) return { title: "The ledger" };
  const machine = shown.answer;
  return { title: (machine instanceof UnreadableMachine ? machine.name : machine?.document.name) ?? "Not found" };
}

export default async function StepPage(props: Props) {
  const { id, step, shown } = await wanted(props);
  if ("trouble" in shown) return <TroubleScreen state={shown.trouble} />;
  const machine = shown.answer;
  if (!machine || !isStep(step)) notFound();
  if (machine instanceof UnreadableMachine) return <UnreadableScreen id={id} name={machine.name} problem={machine.problem} />;
  return (
    <WorkbenchFrame
      key={`${id} ${machine.at ?? ""}`}
      id={id}
      revision={machine.revision}
      machine={machine.document}
      lookedAt={machine.at}
    />
  );
}
