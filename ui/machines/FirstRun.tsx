"use client";
import { ServerLink } from "../kit/ServerLink";

const WAYS = [
  {
    way: "list",
    name: "Write what is in it",
    what: "One thing a line. Ten lines become a whole plan, sized, with what it assumed in plain view.",
  },
  {
    way: "kind",
    name: "Begin with a kind of machine",
    what: "A battery with drivers, a mains supply with steppers, a few cells, two packs: a list, filled in.",
  },
  {
    way: "example",
    name: "Look round an example",
    what: "An invented machine with the mistakes builders make, five places in two minutes.",
  },
  { way: "import", name: "Bring a file", what: "A machine that Node Ledger wrote, or a list from a spreadsheet." },
] as const;

/** A ledger without a machine offers the four ways to begin. */
export function FirstRun() {
  return (
    <section className="py-8" aria-label="How to begin">
      <h2 className="text-lg font-bold">Your first machine, in two minutes</h2>
      <ul className="mt-2 max-w-[760px]">
        {WAYS.map(({ way, name, what }) => (
          <li key={way} className="border-b border-hair py-3">
            <ServerLink href={`/new?way=${way}`} className="link text-base">
              {name}
            </ServerLink>
            <p className="text-sm text-soft">{what}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}
