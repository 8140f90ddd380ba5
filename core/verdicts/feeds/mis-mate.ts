import { isKeyed } from "../../connectors/contact";
import { END_KEYS, setEnd } from "../../connectors/ends";
import { crossMates, type Mates, type Plug } from "../../connectors/mates";
import type { Build } from "../../figures/build";
import { partName, wireName } from "../../figures/names";
import type { Command } from "../../machine/commands";
import { connectorById } from "../../reference/connectors";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "mis-mate",
  title: "Plugs of two rails go into one another",
  step: "feeds",
  needs: "Another family, key or colour for one of the rails.",
});

/** One family (or one coding of it) should carry one voltage and one polarity in the whole machine. */
export const misMate = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  return crossMates(figures.machine, figures.ledger).map((mates) => {
    const row = connectorById(mates.family);
    const names = mates.rails.map((rail) => railName(figures, rail));
    const [first] = mates.plugs;
    return speak({
      subject: { kind: "wire", id: first?.wire ?? "" },
      cause: null,
      about: `${mates.family}:${first?.coding ?? ""}`,
      severity: "fix",
      also: mates.plugs.map(({ wire }) => wire),
      headline: `${row?.name ?? "A plug"}: ${names.join(" and ")} go into one another`,
      detail: `${plugList(figures, mates.plugs)}. The wrong plug in the right hole puts one rail's volts on the other's parts. One family, or one key or colour of it, for one rail.`,
      remedies: codings(figures, mates),
    });
  });
}

function railName(figures: Build, rail: string | null): string {
  if (rail === null) return "motor leads";
  const tag = figures.ledger.rails.find(({ origin }) => origin === rail)?.tag;
  return tag ? `rail ${tag}` : partName(figures, rail);
}

function plugList(figures: Build, plugs: readonly Plug[]): string {
  const names = plugs.map(({ wire }) => {
    const found = figures.wireOf.get(wire);
    return found ? `the ${wireName(figures, found)}` : "";
  });
  const shown = [...new Set(names)];
  return `They are in ${shown.slice(0, 4).join(", ")}${shown.length > 4 ? ` and ${shown.length - 4} more` : ""}`;
}

/** A key or colour of its own for each rail, where the family has keys. */
function codings(figures: Build, mates: Mates): Remedy[] {
  const row = connectorById(mates.family);
  if (!row || !isKeyed(row)) return [];
  const commands = mates.plugs.flatMap(({ wire, end, rail, phase }): Command[] => {
    const found = figures.wireOf.get(wire);
    const at = found?.[END_KEYS[end]];
    const coding = phase ? "motor" : (figures.ledger.rails.find(({ origin }) => origin === rail)?.tag ?? "other");
    return found && at ? [setEnd({ wire: found, end }, { ...at, coding })] : [];
  });
  return [{ label: "Give each rail a key or colour of its own", command: { type: "batch", label: "Code plugs by rail", commands } }];
}
