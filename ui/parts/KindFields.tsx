"use client";
import type { FuseRef, LOAD_KINDS, Part } from "@/core/machine/schema";
import { FUSE_FAMILIES, FUSE_FAMILY_IDS, type FuseFamilyId, ratingsOf } from "@/core/reference/fuses";

export const LOAD_KIND_NAMES: Readonly<Record<(typeof LOAD_KINDS)[number], string>> = {
  motor: "brushed motor",
  brushless: "brushless motor with its drive",
  stepper: "stepper with its drive",
  servo: "servo",
  actuator: "linear actuator",
  pump: "pump",
  fan: "fan",
  heater: "heater",
  coil: "solenoid or relay",
  light: "light",
  sound: "sound",
  board: "controller board",
  computer: "computer",
  sensor: "sensor",
  radio: "radio",
  display: "display",
  other: "other",
};

export const BEHAVIOUR_NAMES = {
  current: "current stays (running motor)",
  resistance: "falls with volts (stalled, heater)",
  power: "rises as volts fall (board, converter)",
} as const;

export const TOPOLOGIES: readonly Extract<Part, { kind: "converter" }>["topology"][] = ["buck", "boost", "buck-boost", "linear"];

interface FuseProps {
  fuse: FuseRef | null;
  onChange: (fuse: FuseRef | null) => void;
  label: string;
  optional?: boolean;
}

/** Family and rating of a fuse; only ratings the family is made in can be chosen. */
export function FuseSelect({ fuse, onChange, label, optional }: FuseProps) {
  const family = fuse?.family ?? "";
  const options = (ids: readonly FuseFamilyId[]) =>
    ids.map((id) => (
      <option key={id} value={id}>
        {FUSE_FAMILIES[id].name}
      </option>
    ));
  const choose = (next: string) => {
    if (next === "") return onChange(null);
    const id = next as FuseFamilyId;
    const ratings = ratingsOf(id);
    const ratingA = ratings.find((rating) => rating >= (fuse?.ratingA ?? 10)) ?? ratings.at(-1);
    if (ratingA !== undefined) onChange({ family: id, ratingA });
  };
  return (
    <span className="flex gap-2">
      <select
        aria-label={`${label}, family`}
        className="field min-w-0 flex-1"
        value={family}
        onChange={(event) => choose(event.target.value)}
      >
        {optional && <option value="">none</option>}
        {fuse ? (
          <>
            <optgroup label={`made for ${fuse.ratingA} A`}>
              {options(FUSE_FAMILY_IDS.filter((id) => ratingsOf(id).includes(fuse.ratingA)))}
            </optgroup>
            <optgroup label="in other ratings">{options(FUSE_FAMILY_IDS.filter((id) => !ratingsOf(id).includes(fuse.ratingA)))}</optgroup>
          </>
        ) : (
          options(FUSE_FAMILY_IDS)
        )}
      </select>
      {fuse && (
        <select
          aria-label={`${label}, rating`}
          className="field fig"
          value={fuse.ratingA}
          onChange={(event) => onChange({ ...fuse, ratingA: Number(event.target.value) })}
        >
          {ratingsOf(fuse.family).map((rating) => (
            <option key={rating} value={rating}>
              {rating} A
            </option>
          ))}
        </select>
      )}
    </span>
  );
}
