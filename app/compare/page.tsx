import type { Metadata } from "next";
import { database } from "@/server/database";
import { machineNames } from "@/server/machines";
import { troubleShown } from "@/server/trouble-shown";
import { CompareScreen } from "@/ui/compare/CompareScreen";
import { TroubleScreen } from "@/ui/machines/TroubleScreen";

export const dynamic = "force-dynamic";
export const metadata: Metadata = { title: "Compare" };

const one = (value: string | string[] | undefined) => (typeof value === "string" ? value : null);

export default async function ComparePage({ searchParams }: { searchParams: Promise<Record<string, string | string[] | undefined>> }) {
  const query = await searchParams;
  const shown = troubleShown(() => machineNames(database()));
  if ("trouble" in shown) return <TroubleScreen state={shown.trouble} />;
  return <CompareScreen machines={shown.answer} a={one(query.a)} b={one(query.b)} />;
}
