"use client";
import { type RefObject, useRef, useState } from "react";
import { toast } from "sonner";
import { readMachineText } from "@/core/machine/read";
import { type Created, importDocument } from "@/state/api";
import { Dialog } from "../kit/Dialog";

/** Longest list taken from a file, letters: what waits for the page that reads it has to fit in the browser. */
const LIST_MOST = 2_000_000;
const MAX_FILE_BYTES = 8 * 1024 * 1024;

interface ImportTrouble {
  file: string;
  problems: readonly { path: string; expected: string }[];
}

/** Takes a machine file in, or says what was expected in it and where; a file that is no machine is a list. */
export function useImport(open: (result: Created) => boolean, onList: (text: string, file: string) => void) {
  const [trouble, setTrouble] = useState<ImportTrouble | null>(null);
  const picker: RefObject<HTMLInputElement | null> = useRef<HTMLInputElement>(null);
  const take = async (file: File) => {
    if (file.size > MAX_FILE_BYTES) {
      const expected = `a machine file of at most 8 MB; this one has ${Math.ceil(file.size / 1048576)} MB, so it is something else`;
      return setTrouble({ file: file.name, problems: [{ path: "(whole file)", expected }] });
    }
    const text = await file.text();
    // What is no JSON at all may be a list, typed or from a spreadsheet.
    if (!/^\s*[{[]/.test(text) && text.trim() !== "") {
      if (text.length <= LIST_MOST) return onList(text, file.name);
      return setTrouble({ file: file.name, problems: [{ path: "(whole file)", expected: "a list of at most 2 MB" }] });
    }
    const read = readMachineText(text);
    if (!read.ok) return setTrouble({ file: file.name, problems: read.problems });
    const result = await importDocument(read.machine);
    if (!open(result))
      return !result.ok && result.problems.length > 0 ? setTrouble({ file: "this file", problems: result.problems }) : undefined;
    if (read.cleaned.length === 0) return;
    const places = `${read.cleaned.slice(0, 3).join(", ")}${read.cleaned.length > 3 ? ` and ${read.cleaned.length - 3} more` : ""}`;
    toast(`Line breaks or characters that cannot be seen were taken out of ${places}.`, { duration: 12_000 });
  };
  const dialog = trouble && (
    <Dialog
      open
      onOpenChange={() => setTrouble(null)}
      title={`Not imported: ${trouble.file}`}
      description="Nothing was changed. What was expected, and where:"
    >
      <ul className="text-sm">
        {trouble.problems.slice(0, 12).map((each) => (
          <li key={`${each.path} ${each.expected}`} className="border-b border-hair py-1">
            <span className="fig font-semibold break-all">{each.path}</span>: expected {each.expected}
          </li>
        ))}
      </ul>
      {trouble.problems.length > 12 && <p className="mt-2 text-xs text-soft">and {trouble.problems.length - 12} more</p>}
    </Dialog>
  );
  return { take, picker, dialog };
}
