import type { Build } from "../../figures/build";
import type { Command } from "../../machine/commands";
import type { Wire } from "../../machine/schema";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "labels", title: "Wires without a label", step: "feeds", needs: "Labels on both ends." });

/** Wires without a label. */
export const labels = rule({ speak, reads: "build", evaluate });

/** Feeds of a machine with more than a handful of them are labelled at both ends, or nobody finds the right one at night. */
const FROM = 8;

function evaluate(figures: Build): Verdict[] {
  const feeds = figures.ledger.rows.flatMap(({ feed }) => (feed ? [feed] : []));
  const bare = feeds.filter((wire) => wire.label === undefined);
  const [first] = bare;
  if (!first || feeds.length < FROM) return [];
  return [
    speak({
      machine: "labels",
      about: "",
      cause: null,
      severity: "watch",
      headline: bare.length === feeds.length ? "No feed carries a label" : `${bare.length} of ${feeds.length} feeds carry no label`,
      detail: "The same text on both ends of both conductors, and on the fuse. The sheet lists them.",
      remedies: [{ label: "Number them in ledger order", command: numberAll(feeds) }],
    }),
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
