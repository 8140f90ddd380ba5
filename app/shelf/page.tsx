import type { Metadata } from "next";
import { database } from "@/server/database";
import { listShelf, shelfUses } from "@/server/shelf";
import { troubleShown } from "@/server/trouble-shown";
import { TroubleScreen } from "@/ui/machines/TroubleScreen";
import { ShelfScreen } from "@/ui/shelf/ShelfScreen";

export const dynamic = "force-dynamic";
export const metadata: Metadata = { title: "Shelf" };

export default function ShelfPage() {
  const shown = troubleShown(() => {
    const db = database();
    return { items: listShelf(db), uses: shelfUses(db) };
  });
  if ("trouble" in shown) return <TroubleScreen state={shown.trouble} />;
  return <ShelfScreen {...shown.answer} />;
}
