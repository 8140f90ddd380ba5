import { showsPins } from "../../connectors/contact";
import { type EndSite, setEnd } from "../../connectors/ends";
import { sitesOf } from "../../figures/end-sites";
import { wireName } from "../../figures/names";
import type { Standing } from "../../figures/standing";
import type { Command } from "../../machine/commands";
import type { Verdict } from "../types";

export const id = "live-pins";
export const title = "Exposed pins on the live side";

/** The half that stays live when a plug is out must not show its pins: one verdict for those that do, one for those nobody told of. */
export function evaluate(figures: Standing): Verdict[] {
  const plugs = sitesOf(figures).filter(({ wire, row }) => row.sort === "plug" && wire.role === "supply");
  const bare = plugs.filter(({ row, at }) => showsPins(row, at) === "yes");
  const unsaid = plugs.filter(({ row, at }) => showsPins(row, at) === "ask");
  const verdicts: Verdict[] = bare.map((site) => ({
    id: `${id}:${site.wire.id}:${site.end}`,
    rule: id,
    severity: "fix",
    step: "feeds",
    subject: { kind: "wire", id: site.wire.id },
    headline: `${site.row.name}: its live half shows bare metal when unplugged`,
    detail: `In the ${wireName(figures, site.wire)}. A tool or the chassis across it is a short with the whole rail behind it. Put the recessed half on the live side, or a family that has one.`,
    remedies: site.row.touchSafe === "no" ? [] : [{ label: "The recessed half is on the live side", command: recessed([site]) }],
  }));
  const [first] = unsaid;
  if (first)
    verdicts.push({
      id: `${id}:ask`,
      rule: id,
      severity: "ask",
      step: "feeds",
      subject: { kind: "wire", id: first.wire.id },
      also: unsaid.map(({ wire }) => wire.id),
      headline: `${unsaid.length === 1 ? "A plug" : `${unsaid.length} plugs`}: which half is on the live side?`,
      detail: `${unsaid
        .map(({ wire }) => wireName(figures, wire))
        .slice(0, 4)
        .join(
          ", ",
        )}${unsaid.length > 4 ? " and more" : ""}. The half that stays live when it is pulled should be the one with recessed contacts.`,
      remedies: [{ label: "The recessed half, in all of them", command: recessed(unsaid) }],
    });
  return verdicts;
}

function recessed(sites: readonly EndSite[]): Command {
  const commands = sites.map((site) => setEnd(site, { ...site.at, live: "recessed" }));
  return { type: "batch", label: "Recessed half on the live side", commands };
}
