"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { ago } from "./ago";
import { BackupList, type LedgerFile } from "./LedgerDialog";
import { useWay } from "./useWay";

/** What a page shows in place of itself when the ledger cannot be used. */
export type ShownTrouble =
  | {
      kind: "ways";
      state: LedgerFile & {
        trouble: { kind: string; found: string; detail?: string } | null;
        goodBackup: string | null;
        readable: readonly string[];
      };
    }
  | { kind: "fault"; title: string; detail: string };

/** Troubles in which the file is somebody else's, and stays where it is. */
const LEFT_ALONE = ["foreign", "text", "newer", "unopenable"];

/** In place of a page: what was found where the ledger should be, and the ways back. */
export function TroubleScreen({ state }: { state: ShownTrouble }) {
  const router = useRouter();
  return (
    <main className="mx-auto max-w-[680px] p-8 max-sm:p-4">
      <p className="text-sm text-soft">Node Ledger</p>
      {state.kind === "fault" ? (
        <>
          <h1 className="text-xl font-bold">{state.title}</h1>
          <p className="mt-2">{state.detail}</p>
          <Button kind="main" className="mt-4" onClick={() => router.refresh()}>
            Try again
          </Button>
        </>
      ) : (
        <Ways {...state.state} />
      )}
    </main>
  );
}

function Ways({ path, trouble, backups, goodBackup, readable }: Extract<ShownTrouble, { kind: "ways" }>["state"]) {
  const { busy, refused, go } = useWay();
  const [file, setFile] = useState("");
  const [older, setOlder] = useState(false);
  const kind = trouble?.kind ?? "";
  const alone = LEFT_ALONE.includes(kind);
  const held = kind === "removed" || kind === "replaced";
  const good = backups.find(({ name }) => name === goodBackup);
  return (
    <>
      <h1 className="text-xl font-bold">{trouble?.found}</h1>
      <p className="mt-2 text-sm">
        <span className="fig break-all">{path}</span>
      </p>
      {trouble?.detail && (
        <p className="text-xs text-soft">
          The check says:{" "}
          {trouble.detail
            .replace(/\*\*\*.*?\*\*\*/g, "")
            .trim()
            .slice(0, 200)}
        </p>
      )}
      <p className="mt-2 text-sm">
        Nothing was written to it.{" "}
        {alone
          ? "It stays where it is; the ledger goes on in another file beside it."
          : "Whatever you choose, the file as it was found is kept beside the ledger."}{" "}
        Edits that were not saved yet stay in the browsers they were made in.
      </p>
      {refused && (
        <p role="alert" className="mt-3 font-semibold text-stop dark:text-fix">
          {refused}
        </p>
      )}
      <h2 className="mt-5 border-b-2 border-ink pb-1 text-base font-bold">Ways back</h2>
      <ul className="divide-y divide-hair">
        {held && (
          <Way
            title="Write the ledger again"
            why="Everything that was in it is still held here."
            action="Write it again"
            busy={busy}
            go={() => void go({ action: "put back" })}
          />
        )}
        {readable.length > 0 && (
          <Way
            title={`Read out ${readable.length === 1 ? "one machine" : `${readable.length} machines`}`}
            why={`In their newest version that can be read: ${readable.slice(0, 6).join(", ")}${readable.length > 6 ? ` and ${readable.length - 6} more` : ""}.`}
            action="Read them out"
            busy={busy}
            go={() => void go({ action: "salvage" })}
          />
        )}
        {good && (
          <Way
            title={`Take the newest good backup, ${ago(good.at)}`}
            why="All machines with their revisions, as they were then."
            action="Restore it"
            busy={busy}
            go={() => void go({ action: "restore", backup: good.name })}
          />
        )}
        {backups.length > (good ? 1 : 0) && (
          <li className="py-2.5">
            <button type="button" className="link text-sm" aria-expanded={older} onClick={() => setOlder(!older)}>
              {good ? "Other backups" : "Backups"} ({backups.length - (good ? 1 : 0)})
            </button>
            {older && (
              <BackupList
                backups={backups.filter(({ name }) => name !== goodBackup)}
                busy={busy}
                restore={(backup) => void go({ action: "restore", backup })}
              />
            )}
          </li>
        )}
        <li className="py-2.5">
          <form
            onSubmit={(event) => {
              event.preventDefault();
              if (file.trim() !== "") void go({ action: "use", file: file.trim() });
            }}
          >
            <Field label="Another ledger file" hint="Its place on this computer. It is copied, and stays as it is.">
              {(props) => <input {...props} className="field w-full" value={file} onChange={(event) => setFile(event.target.value)} />}
            </Field>
            <Button type="submit" className="mt-1" disabled={busy || file.trim() === ""}>
              Use a copy of it
            </Button>
          </form>
        </li>
        <Way
          title="Begin a new ledger"
          why="With no machine in it."
          action="Begin it"
          busy={busy}
          go={() => void go({ action: "fresh" })}
        />
      </ul>
    </>
  );
}

function Way({ title, why, action, busy, go }: { title: string; why: string; action: string; busy: boolean; go: () => void }) {
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2.5">
      <div className="min-w-0 flex-1 basis-[260px]">
        {/* How long ago a backup was made may have moved on since the server said it. */}
        <p className="font-bold" suppressHydrationWarning>
          {title}
        </p>
        <p className="text-sm break-words text-soft">{why}</p>
      </div>
      <Button disabled={busy} onClick={go}>
        {action}
      </Button>
    </li>
  );
}
