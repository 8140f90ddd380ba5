import type { Metadata } from "next";
import { compareStored } from "@/server/compare";
import { database } from "@/server/database";
import { machineNames } from "@/server/machines";
import { CompareScreen } from "@/ui/compare/CompareScreen";

export const dynamic = "force-dynamic";
export const metadata: Metadata = { title: "Compare" };

const one = (value: string | string[] | undefined) => (typeof value === "string" ? value : null);

export default async function ComparePage({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const query = await searchParams;
  const [a, b] = [one(query.a), one(query.b)];
  const machines = machineNames(database());
  return <CompareScreen machines={machines} a={a} b={b} compared={a && b ? compareStored(database(), a, b) : null} />;
}
