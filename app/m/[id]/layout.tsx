import type { Metadata } from "next";
import { notFound } from "next/navigation";
import type { ReactNode } from "react";
import { database } from "@/server/database";
import { getMachine } from "@/server/machines";
import { WorkbenchFrame } from "@/ui/workbench/WorkbenchFrame";

interface Props {
  params: Promise<{ id: string }>;
  children: ReactNode;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: getMachine(database(), (await params).id)?.document.name ?? "Not found" };
}

export default async function MachineLayout({ params, children }: Props) {
  const found = getMachine(database(), (await params).id);
  if (!found) notFound();
  return (
    <WorkbenchFrame key={found.id} id={found.id} revision={found.revision} machine={found.document}>
      {children}
    </WorkbenchFrame>
  );
}
