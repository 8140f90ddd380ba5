import type { Metadata } from "next";
import { EXAMPLES } from "@/demo/index";
import { StartScreen } from "@/ui/start/StartScreen";
import { WAYS } from "@/ui/start/ways";

export const dynamic = "force-dynamic";
export const metadata: Metadata = { title: "New machine" };

const examples = EXAMPLES.map(({ key, make }) => ({ key, machine: make() })).map(({ key, machine: { name, description } }) => ({
  key,
  name,
  description,
}));

interface Props {
  searchParams: Promise<{ way?: string | string[] }>;
}

export default async function NewPage({ searchParams }: Props) {
  const { way } = await searchParams;
  return <StartScreen way={WAYS.find(({ id }) => id === way)?.id ?? "list"} examples={examples} />;
}
