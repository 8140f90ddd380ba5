import type { Metadata } from "next";
import { notFound } from "next/navigation";
import type { ReactNode } from "react";
import { database } from "@/server/database";
import { getMachine, UnreadableMachine } from "@/server/machines";
import { UnreadableScreen } from "@/ui/machines/UnreadableScreen";
import { WorkbenchFrame } from "@/ui/workbench/WorkbenchFrame";

interface Props {
  params: Promise<{ id: string }>;
  children: ReactNode;
}

function found(id: string) {
  try {
    return getMachine(database(), id);
  } catch (error) {
    if (error instanceof UnreadableMachine) return error;
    throw error;
  }
}

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
