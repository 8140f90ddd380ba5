import type { Command } from "../machine/commands";
import { newMachine } from "../machine/defaults";
import type { Machine, Settings } from "../machine/schema";
import { Builder } from "./builder";
import { isDriven } from "./demand";
import { Hanger } from "./hang";
import { hangLinks } from "./links";
import { usualModes } from "./modes";
import { firstSizes } from "./provisional";
import { makeSources, type Sourced } from "./rails";
import type { LeftOut, Sorted } from "./sorted";

/** A plan made from a list, before its sizes. */
export interface Plan {
  readonly machine: Machine;
  readonly commands: readonly Command[];
  readonly left: readonly LeftOut[];
}

/** What the builder wants of a draft. */
export interface DraftOptions {
  readonly name: string;
  readonly schools?: Settings["schools"];
}

/**
 * A whole plan from a list: sources with their fuse and switch, an emergency stop where something can hurt, bars, a driver for
 * each motor, a converter for each rail that no source has, motors and logic apart, returns, links, usual modes.
 */
export function planOf(said: Sorted, { name, schools }: DraftOptions): Plan {
  const about = said.lines.flatMap(({ reading }) => (reading?.is === "about" ? [reading] : []));
  const lengths = said.lines.flatMap(({ reading }) => (reading?.is === "lengths" ? reading.to : []));
  const titled = about.find((each) => each.name !== null)?.name;
  const builder = new Builder(newMachine((titled ?? name).slice(0, 80)), lengths);
  const ambient = about.find((each) => each.ambientC !== null)?.ambientC?.value;
  const wanted = about.find((each) => each.runS !== null)?.runS?.value;
  const ambientC = ambient === undefined ? undefined : Math.min(120, Math.max(-40, ambient));
  if (ambientC !== undefined || wanted !== undefined || schools)
    builder.do({
      type: "setSettings",
      changes: {
        ...(ambientC === undefined ? {} : { ambientC }),
        ...(wanted === undefined ? {} : { wantedRunS: Math.min(864000, wanted) }),
        ...(schools ? { schools } : {}),
      },
    });
  const sourced: Sourced = makeSources(builder, said);
  const hanger = new Hanger(builder, sourced, said);
  for (const each of sourced.loads) if (isDriven(each.reading)) hanger.driven(each);
  for (const each of sourced.loads) if (!isDriven(each.reading)) hanger.straight(each);
  hanger.spare();
  hanger.others(said.parts);
  usualModes(builder, sourced.stops);
  hangLinks(builder, said);
  firstSizes(builder);
  return { machine: builder.machine, commands: builder.commands, left: said.left };
}
