import { showsPins } from "../../connectors/contact";
import { type EndSite, setEnd } from "../../connectors/ends";
import type { Build } from "../../figures/build";
import { sitesOf } from "../../figures/end-sites";
import { wireName } from "../../figures/names";
import type { Command } from "../../machine/commands";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "live-pins",
  title: "Exposed pins on the live side",
  step: "feeds",
  needs: "A housing with recessed contacts on the half that stays live.",
});

/** The half that stays live when a plug is out must not show its pins: one verdict for those that do, one for those nobody told of. */
export const livePins = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  const plugs = sitesOf(figures).filter(({ wire, row }) => row.sort === "plug" && wire.role === "supply");
  const bare = plugs.filter(({ row, at }) => showsPins(row, at) === "yes");
  const unsaid = plugs.filter(({ row, at }) => showsPins(row, at) === "ask");
  const verdicts: Verdict[] = bare.map((site) =>
    speak({
      wire: site.wire,
      about: `${site.wire.id}:${site.end}`,
      severity: "fix",
      headline: `${site.row.name}: its live half shows bare metal when unplugged`,
      detail: `In the ${wireName(figures, site.wire)}. A tool or the chassis across it is a short with the whole rail behind it. Put the recessed half on the live side, or a family that has one.`,
      remedies:
        site.row.touchSafe === "no" ? [] : [{ label: "The recessed half is on the live side", way: "fact", command: recessed([site]) }],
    }),
  );
  const [first] = unsaid;
  if (first)
    verdicts.push(
      speak({
        wire: first.wire,
        about: "ask",
        cause: null,
        severity: "ask",
        also: unsaid.map(({ wire }) => wire.id),
        headline: `${unsaid.length === 1 ? "A plug" : `${unsaid.length} plugs`}: which half is on the live side?`,
        detail: `${unsaid
          .map(({ wire }) => wireName(figures, wire))
          .slice(0, 4)
          .join(
            ", ",
          )}${unsaid.length > 4 ? " and more" : ""}. The half that stays live when it is pulled should be the one with recessed contacts.`,
        remedies: [{ label: "The recessed half, in all of them", way: "fact", command: recessed(unsaid) }],
      }),
    );
  return verdicts;
}

function recessed(sites: readonly EndSite[]): Command {
  const commands = sites.map((site) => setEnd(site, { ...site.at, live: "recessed" }));
  return { type: "batch", label: "Recessed half on the live side", commands };
}
