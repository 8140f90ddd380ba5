import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { cache, type ReactNode } from "react";
import { database } from "@/server/database";
import { getMachine, orUnreadable, UnreadableMachine } from "@/server/machines";
import { UnreadableScreen } from "@/ui/machines/UnreadableScreen";
import { WorkbenchFrame } from "@/ui/workbench/WorkbenchFrame";

interface Props {
  params: Promise<{ id: string }>;
  children: ReactNode;
}

/** Read once a request, for the title and the page. */
const found = cache((id: string) => orUnreadable(() => getMachine(database(), id)));

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const machine = found((await params).id);
  return { title: (machine instanceof UnreadableMachine ? machine.name : machine?.document.name) ?? "Not found" };
}

export default async function MachineLayout({ params, children }: Props) {
  const { id } = await params;
  const machine = found(id);
  if (!machine) notFound();
  if (machine instanceof UnreadableMachine) return <UnreadableScreen id={id} name={machine.name} problem={machine.problem} />;
  return (
    <WorkbenchFrame key={id} id={id} revision={machine.revision} machine={machine.document}>
      {children}
    </WorkbenchFrame>
  );
}
