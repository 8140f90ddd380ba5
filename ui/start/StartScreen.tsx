"use client";
import { useRouter } from "next/navigation";
import { Tabs } from "radix-ui";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import { KINDS } from "@/core/drafting/kinds";
import { type Created, createFromExample } from "@/state/api";
import { DraftingThread } from "@/state/drafting";
import { Button } from "../kit/Button";
import { FileInput } from "../kit/FileInput";
import { ServerLink } from "../kit/ServerLink";
import { ThemeButton } from "../kit/ThemeButton";
import { useImport } from "../machines/useImport";
import { ListPane } from "./ListPane";
import { nameOf, takeList, WAYS, type Waiting, type Way } from "./ways";

interface Props {
  way: Way;
  examples: readonly { key: string; name: string; description: string }[];
}

/** A new machine: from a list, a kind of machine, an example or a file. */
export function StartScreen({ way: first, examples }: Props) {
  const router = useRouter();
  const [thread] = useState(() => new DraftingThread());
  useEffect(() => () => thread.stop(), [thread]);
  const [way, setWay] = useState<Way>(first);
  /** What the list begins with; a number of its own, so that the same list twice is a new field. */
  const [list, setList] = useState({ text: "", name: "", turn: 0 });
  const begin = (waiting: Waiting) => {
    setList(({ turn }) => ({ ...waiting, turn: turn + 1 }));
    setWay("list");
  };
  useEffect(() => {
    const waiting = takeList();
    if (waiting) setList(({ turn }) => ({ ...waiting, turn: turn + 1 }));
  }, []);
  const open = (result: Created, assumed = false): boolean => {
    if (result.ok) router.push(`/m/${result.id}/${assumed ? "loads#assumed" : "feeds"}`);
    else if (result.problems.length === 0) toast.error(result.detail);
    return result.ok;
  };
  const { take, picker, dialog } = useImport(open, (text, file) => begin({ text, name: nameOf(file) }));
  return (
    <Tabs.Root
      value={way}
      onValueChange={(next) => setWay(WAYS.find(({ id }) => id === next)?.id ?? "list")}
      className="flex h-screen min-h-[560px] flex-col max-desk:h-auto max-desk:min-h-screen"
    >
      <header className="flex shrink-0 flex-wrap items-stretch border-b-2 border-ink">
        <div className="flex flex-col justify-center px-4 py-1.5">
          <h1 className="text-lg leading-tight font-bold">New machine</h1>
          <ServerLink href="/" className="text-xs text-soft hover:underline">
            All machines
          </ServerLink>
        </div>
        <Tabs.List aria-label="Ways to begin" className="flex max-w-full items-stretch overflow-x-auto">
          {WAYS.map(({ id, label }) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="min-h-[44px] border-l border-hair px-4 text-base whitespace-nowrap text-soft hover:text-ink data-[state=active]:border-b-4 data-[state=active]:border-b-accent data-[state=active]:font-bold data-[state=active]:text-ink max-sm:px-2.5"
            >
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <p className="ml-auto flex items-center gap-3 px-4 text-xs text-soft">
          <span className="max-sm:hidden">Nothing leaves this computer</span>
          <ThemeButton />
        </p>
      </header>
      <main className="flex min-h-0 flex-1 flex-col">
        <Tabs.Content value="list" tabIndex={-1} className="flex min-h-0 flex-1 flex-col">
          <ListPane key={list.turn} thread={thread} first={list} open={open} />
        </Tabs.Content>
        <Tabs.Content value="kind" tabIndex={-1} className="mx-auto w-full max-w-[860px] px-5 py-6">
          <p className="text-sm text-soft">Each is a list, filled in. It goes into the field, and you change what is different in yours.</p>
          <ul className="mt-3">
            {KINDS.map(({ id, name, what, list: text }) => (
              <li key={id} className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-6 border-b border-hair py-3">
                <div>
                  <h2 className="text-base font-bold">{name}</h2>
                  <p className="text-sm text-soft">{what}</p>
                </div>
                <Button onClick={() => begin({ text, name: "" })} aria-label={`Begin with: ${name}`}>
                  Begin with it
                </Button>
              </li>
            ))}
          </ul>
        </Tabs.Content>
        <Tabs.Content value="example" tabIndex={-1} className="mx-auto w-full max-w-[860px] px-5 py-6">
          <p className="text-sm text-soft">
            Invented machines, with the mistakes builders make. A look round shows five places, and can be left at any of them.
          </p>
          <ul className="mt-3">
            {examples.map(({ key, name, description }) => (
              <li key={key} className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-6 gap-y-2 border-b border-hair py-3">
                <div>
                  <h2 className="text-base font-bold">{name}</h2>
                  <p className="text-sm text-soft">{description}</p>
                </div>
                <span className="flex flex-wrap gap-3">
                  <Button
                    onClick={() =>
                      void createFromExample(key).then((result) => result.ok && router.push(`/m/${result.id}/feeds#look-round`))
                    }
                    aria-label={`Look round ${name}`}
                  >
                    Look round
                  </Button>
                  <Button
                    kind="quiet"
                    onClick={() => void createFromExample(key).then((result) => open(result))}
                    aria-label={`Open ${name}`}
                  >
                    Open
                  </Button>
                </span>
              </li>
            ))}
          </ul>
        </Tabs.Content>
        <Tabs.Content value="import" tabIndex={-1} className="mx-auto w-full max-w-[860px] px-5 py-6 text-sm">
          <p className="text-soft">
            A machine file that Node Ledger wrote, or a list: a text, or a table saved as CSV. A list goes into the field, to be looked at
            first.
          </p>
          <Button kind="main" className="mt-4" onClick={() => picker.current?.click()}>
            Choose a file
          </Button>
          <FileInput
            label="Machine file or list"
            accept=".json,.csv,.tsv,.txt,application/json,text/csv,text/plain"
            opener={picker}
            onFile={(file) => void take(file)}
          />
        </Tabs.Content>
      </main>
      {dialog}
    </Tabs.Root>
  );
}
