"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { toast } from "sonner";
import { goWay, type LedgerWay } from "@/state/api";

/** Goes a way back and tells what came of it; what can be taken back offers that. */
export function useWay(): { busy: boolean; refused: string | null; go: (way: LedgerWay) => Promise<boolean> } {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const go = async (way: LedgerWay): Promise<boolean> => {
    setBusy(true);
    setRefused(null);
    const result = await goWay(way);
    setBusy(false);
    if (!result.ok) {
      setRefused(result.detail);
      return false;
    }
    const back = result.undo;
    toast(result.done, {
      duration: 12_000,
      ...(back && way.action !== "back up"
        ? { action: { label: "Take it back", onClick: () => void go({ action: "restore", backup: back }) } }
        : {}),
    });
    router.refresh();
    return true;
  };
  return { busy, refused, go };
}
