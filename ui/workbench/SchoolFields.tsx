"use client";
import { AMPACITY_SCHOOLS, DRIVER_FEED_SCHOOLS, type Settings, STOP_SCHOOLS } from "@/core/machine/schema";
import { SCHOOL_WORDS } from "@/core/wires/schools";
import { Field } from "../kit/Field";

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
      <Field label="Wire current" hint={`${SCHOOL_WORDS[ampacity].name} demands ${SCHOOL_WORDS[ampacity].demands}`}>
        {(props) => (
          <select
            {...props}
            className="field"
            value={ampacity}
            onChange={(event) => onSchools({ ampacity: AMPACITY_SCHOOLS.find((each) => each === event.target.value) })}
          >
            {AMPACITY_SCHOOLS.map((each) => (
              <option key={each} value={each}>
                {SCHOOL_WORDS[each].name}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field
        label="Driver feeds"
        hint={driverFeeds ? DRIVER_FEEDS[driverFeeds].demands : "Nothing is asked of them beyond the other rules."}
      >
        {(props) => (
          <select
            {...props}
            className="field"
            value={driverFeeds ?? ""}
            onChange={(event) => onSchools({ driverFeeds: DRIVER_FEED_SCHOOLS.find((each) => each === event.target.value) })}
          >
            <option value="">no school chosen</option>
            {DRIVER_FEED_SCHOOLS.map((each) => (
              <option key={each} value={each}>
                {DRIVER_FEEDS[each].label}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Emergency stop" hint={stop ? STOPS[stop].demands : "Nothing is said about it."}>
        {(props) => (
          <select
            {...props}
            className="field"
            value={stop ?? ""}
            onChange={(event) => onSchools({ stop: STOP_SCHOOLS.find((each) => each === event.target.value) })}
          >
            <option value="">no school chosen</option>
            {STOP_SCHOOLS.map((each) => (
              <option key={each} value={each}>
                {STOPS[each].label}
              </option>
            ))}
          </select>
        )}
      </Field>
    </>
  );
}
