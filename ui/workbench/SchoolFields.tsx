"use client";
import { AMPACITY_SCHOOLS, DRIVER_FEED_SCHOOLS, type Settings, STOP_SCHOOLS } from "@/core/machine/schema";
import { SCHOOL_WORDS } from "@/core/wires/schools";
import { always, SelectField } from "../kit/Select";

type Schools = Settings["schools"];

const DRIVER_FEEDS: Readonly<Record<(typeof DRIVER_FEED_SCHOOLS)[number], { label: string; demands: string }>> = {
  "each fused": {
    label: "each has its own fuse",
    demands: "A fuse at the split for each; on its driver's side something must take a braking motor's energy when it opens.",
  },
  "main only": {
    label: "main fuse only",
    demands: "Braking energy always finds the battery; each feed must then survive a short until the main fuse opens, short and enclosed.",
  },
};
const STOPS: Readonly<Record<(typeof STOP_SCHOOLS)[number], { label: string; demands: string }>> = {
  "opens power": {
    label: "opens the motors' power",
    demands: "A contact that cuts all that moves; logic stays alive, and a reset is deliberate.",
  },
  "disables drives": {
    label: "disables the drives",
    demands: "Each drive has an input for it; logic stays alive. Silicon alone is not made for safety.",
  },
};

/** Schools of feeds and stops: each changes results; the sentence says what it demands. */
export function SchoolFields({ settings, onSchools }: { settings: Settings; onSchools: (schools: Partial<Schools>) => void }) {
  const { ampacity = "chassis", driverFeeds, stop } = settings.schools;
  return (
    <>
      <SelectField
        label="Wire current"
        hint={`${SCHOOL_WORDS[ampacity].name} demands ${SCHOOL_WORDS[ampacity].demands}`}
        wide
        value={ampacity}
        options={AMPACITY_SCHOOLS.map((each) => ({ value: each, label: SCHOOL_WORDS[each].name }))}
        onChange={always((chosen) => onSchools({ ampacity: chosen }))}
      />
      <SelectField
        label="Driver feeds"
        hint={driverFeeds ? DRIVER_FEEDS[driverFeeds].demands : "Nothing is asked of them beyond the other rules."}
        wide
        value={driverFeeds}
        options={DRIVER_FEED_SCHOOLS.map((each) => ({ value: each, label: DRIVER_FEEDS[each].label }))}
        none="no school chosen"
        onChange={(chosen) => onSchools({ driverFeeds: chosen })}
      />
      <SelectField
        label="Emergency stop"
        hint={stop ? STOPS[stop].demands : "Nothing is said about it."}
        wide
        value={stop}
        options={STOP_SCHOOLS.map((each) => ({ value: each, label: STOPS[each].label }))}
        none="no school chosen"
        onChange={(chosen) => onSchools({ stop: chosen })}
      />
    </>
  );
}
