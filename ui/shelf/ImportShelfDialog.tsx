"use client";
import { useState } from "react";
import { toast } from "sonner";
import { readShelf, SHELF_COLUMNS } from "@/core/exchange/shelf-csv";
import { type ShelfEntry, thingName } from "@/core/machine/shelf";
import { putOnShelf } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { TableImport } from "../kit/TableImport";
import { ratingWords } from "./words";

const EXAMPLE =
  "Kind, Name, How many, Volts, Amps, Family\ndriver, Blue 2-channel board, 2, 24, 10,\nfuse,, 20,, 15, blade regular 32 V\nwire, 14 AWG red, 12.5";

function words({ thing, count }: ShelfEntry): string {
  const many = count === null ? "some" : `${count}${thing.sort === "wire" ? " m" : ""}`;
  return `${many} · ${thingName(thing)}: ${ratingWords(thing)}`;
}

/** A list of what the builder owns, from a spreadsheet or a file. */
export function ImportShelfDialog({ onClose, onDone }: { onClose: () => void; onDone: () => void }) {
  const [refused, setRefused] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const put = async (entries: readonly ShelfEntry[], keepRest: () => boolean) => {
    setBusy(true);
    const done = await putOnShelf(entries);
    setBusy(false);
    if (!done.ok) return setRefused(done.detail);
    toast(`${done.items.length} thing${done.items.length === 1 ? "" : "s"} put on the shelf`);
    setRefused(null);
    onDone();
    if (!keepRest()) onClose();
  };
  return (
    <Dialog
      open
      wide
      onOpenChange={onClose}
      title="A list for the shelf"
      description="A row a thing. Its kind decides which columns count; what stands in the others is left out. Figures count as of a datasheet unless a column says how they are known."
    >
      <TableImport columns={SHELF_COLUMNS} example={EXAMPLE} read={readShelf} say={words}>
        {(entries, keepRest) => (
          <div className="mt-2">
            {refused && (
              <p role="alert" className="mb-1 text-sm font-semibold text-stop dark:text-fix">
                {refused}
              </p>
            )}
            <Button kind="main" disabled={entries.length === 0 || busy} onClick={() => void put(entries, keepRest)}>
              Put {entries.length} on the shelf
            </Button>
          </div>
        )}
      </TableImport>
    </Dialog>
  );
}
