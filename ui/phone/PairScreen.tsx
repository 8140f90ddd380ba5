"use client";
import { type FormEvent, useEffect, useId, useState } from "react";
import { pairThisPhone } from "@/state/api";

interface Props {
  detail: string | null;
  onPaired: () => void;
}

/** Where a code is typed, or comes with the address of the picture. */
export function PairScreen({ detail, onPaired }: Props) {
  const [code, setCode] = useState("");
  const [name, setName] = useState("This phone");
  const [trouble, setTrouble] = useState<string | null>(detail);
  const [busy, setBusy] = useState(false);
  const [codeId, nameId] = [useId(), useId()];
  useEffect(() => {
    const given = new URLSearchParams(window.location.search).get("code");
    if (!given) return;
    setCode(given);
    // A code works once: it does not stay in the address.
    window.history.replaceState(null, "", window.location.pathname);
  }, []);
  const pair = async (event: FormEvent) => {
    event.preventDefault();
    if (code.trim() === "") return setTrouble("Type the code that stands on the bench computer.");
    setBusy(true);
    const failure = await pairThisPhone(code, name.trim() || "A phone");
    setBusy(false);
    if (failure) setTrouble(failure.detail);
    else onPaired();
  };
  const field = "fig mt-1 block h-[52px] w-full border-2 border-accent bg-sheet px-3 text-xl";
  return (
    <main className="mx-auto max-w-[430px] p-4">
      <h1 className="text-xl font-bold">Pair this phone</h1>
      <p className="mt-1 text-base">
        On the bench computer open the machine's Bring-up and choose Phones. It shows a code that works once.
      </p>
      <form onSubmit={pair} className="mt-4 space-y-4">
        <div>
          <label htmlFor={codeId} className="text-sm">
            Code
          </label>
          <input
            id={codeId}
            className={`${field} uppercase`}
            value={code}
            autoCapitalize="characters"
            autoComplete="off"
            onChange={(event) => setCode(event.target.value)}
            aria-invalid={trouble !== null}
            aria-describedby={`${codeId}-trouble`}
          />
        </div>
        <div>
          <label htmlFor={nameId} className="text-sm">
            What this phone is called in the list
          </label>
          <input id={nameId} className={field} value={name} maxLength={60} onChange={(event) => setName(event.target.value)} />
        </div>
        <p id={`${codeId}-trouble`} role="alert" className="text-sm font-semibold text-stop dark:text-fix">
          {trouble}
        </p>
        <button type="submit" disabled={busy} className="min-h-[48px] w-full border border-ink bg-ink text-base font-semibold text-paper">
          {busy ? "Pairing…" : "Pair"}
        </button>
      </form>
    </main>
  );
}
