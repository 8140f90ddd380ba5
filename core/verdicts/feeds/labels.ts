import type { Standing } from "../../figures/standing";
import type { Command } from "../../machine/commands";
import type { Wire } from "../../machine/schema";
import type { Verdict } from "../types";

export const id = "labels";
export const title = "Wires without a label";

/** Feeds of a machine with more than a handful of them are labelled at both ends, or nobody finds the right one at night. */
const FROM = 8;

export function evaluate(figures: Standing): Verdict[] {
  const feeds = figures.ledger.rows.flatMap(({ feed }) => (feed ? [feed] : []));
  const bare = feeds.filter((wire) => wire.label === undefined);
  const [first] = bare;
  if (!first || feeds.length < FROM) return [];
  return [
    {
      id,
      rule: id,
      severity: "watch",
      step: "feeds",
      subject: { kind: "machine", id: "labels" },
      headline: bare.length === feeds.length ? "No feed carries a label" : `${bare.length} of ${feeds.length} feeds carry no label`,
      detail: "The same text on both ends of both conductors, and on the fuse. The sheet lists them.",
      remedies: [{ label: "Number them in ledger order", command: numberAll(feeds) }],
    },
  ];
}

/** F1, F2 … for feeds without a label, past those that are taken. */
function numberAll(feeds: readonly Wire[]): Command {
  const taken = new Set(feeds.map(({ label }) => label));
  let n = 0;
  const next = () => {
    do n++;
    while (taken.has(`F${n}`));
    return `F${n}`;
  };
  const commands = feeds
    .filter(({ label }) => label === undefined)
    .map((wire): Command => ({ type: "setFeed", id: wire.id, changes: { label: next() } }));
  return { type: "batch", label: "Label all feeds", commands };
}
