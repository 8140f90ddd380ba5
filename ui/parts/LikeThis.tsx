"use client";
import { toast } from "sonner";
import { likeThis } from "@/core/drafting/like";
import type { Part } from "@/core/machine/schema";
import { Menu } from "../kit/Menu";
import { useDispatch, useWorkbenchContext } from "../workbench/context";
import { showRow } from "../workbench/showRow";

const MANY = [1, 2, 3, 4, 5, 7, 9] as const;

/** More of the part of a row: as it is, where it is, wired as it is. */
export function LikeThis({ part }: { part: Part }) {
  const { store } = useWorkbenchContext();
  const { act } = useDispatch();
  const take = (many: number) => {
    const { machine } = store.getState();
    const command = likeThis(machine, part.id, many);
    if (!command) return toast.error(`${part.name} has no place beside itself.`);
    const before = new Set(machine.parts.map(({ id }) => id));
    if (!act(command)) return;
    const first = store.getState().machine.parts.find(({ id, kind }) => !before.has(id) && kind === part.kind);
    if (first) showRow(store, first.id);
  };
  return (
    <Menu
      slim
      label="Another"
      items={MANY.map((many) => ({ label: many === 1 ? `one like ${part.name}` : `${many} like it`, act: () => take(many) }))}
    />
  );
}
