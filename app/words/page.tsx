import type { Metadata } from "next";
import { WordsScreen } from "@/ui/words/WordsScreen";

export const dynamic = "force-dynamic";
export const metadata: Metadata = { title: "Words" };

export default function WordsPage() {
  return <WordsScreen />;
}
