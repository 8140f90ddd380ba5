"use client";

import { useState } from "react";
import { joinSource, jointsOf, plusPlaces } from "@/core/machine/join";
import { returnPlaces } from "@/core/machine/placing";
import type { Source, Wire } from "@/core/machine/schema";
import { endName } from "@/core/machine/terminals";
import { say } from "@/core/quantity/format";
import { GAUGES } from "@/core/reference/gauges";
import { analysisOf } from "@/state/findings";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { LengthField } from "../kit/LengthField";
import { SelectField } from "../kit/Select";
import { useConductorFields } from "../parts/ConductorFields";
import { FuseSelect } from "../parts/KindFields";
import { PlaceField } from "../parts/PlaceField";
import { pickFigure, useDispatch, useWorkbench } from "../workbench/context";

/** Rails a source feeds besides what hangs on it: a charger on the pack's bar, a second battery, a supply beside one. */
export function JoinPane({ source }: { source: Source }) {
  const machine = useWorkbench((state) => state.machine);
  const { act } = useDispatch();
  const [joining, setJoining] = useState(false);
  const joints = jointsOf(machine, source.id);
  return (
    <fieldset className="mt-2 border-t border-hair">
      <legend className="pr-2 text-xs font-bold">Joined to other rails</legend>
      {joints.map(({ supply, back }) => (
        <div key={supply.id} className="border-b border-hair py-1 text-xs">
          <p>
            to <span className="font-semibold">{endName(machine, supply.to)}</span>
            {back && `, back from ${endName(machine, back.from)}`} <JointAmps wire={supply} />{" "}
            <button
              type="button"
              className="link"
              onClick={() =>
                act({
                  type: "batch",
                  label: `Part ${source.name} from ${endName(machine, supply.to)}`,
                  commands: [supply, ...(back ? [back] : [])].map(({ id }) => ({ type: "removeWire", id })),
                })
              }
            >
              part them
            </button>
          </p>
          <JointWire wire={supply} />
        </div>
      ))}
      <p className="mt-1 text-xs">
        <button type="button" className="link" onClick={() => setJoining(true)}>
          Join it to a rail
        </button>
        {joints.length === 0 && <span className="text-soft"> that something else feeds too: a charger, a second battery</span>}
      </p>
      {joining && <JoinDialog source={source} onClose={() => setJoining(false)} />}
    </fieldset>
  );
}

function JointAmps({ wire }: { wire: Wire }) {
  const figure = useWorkbench((state) => analysisOf(state)?.wires[wire.id]);
  const mode = useWorkbench((state) => state.mode);
  const amps = pickFigure(figure?.amps, mode);
  return amps ? <span className="fig">{say(amps.value, "current")}</span> : null;
}

/** Length, size and fuse of a joining pair; both conductors change together. */
function JointWire({ wire }: { wire: Wire }) {
  const { act, dispatch } = useDispatch();
  return (
    <>
      <div className="grid grid-cols-2 gap-x-4">
        <LengthField label="Length" wire={wire} onCommit={(lengthM) => dispatch({ type: "setFeed", id: wire.id, changes: { lengthM } })} />
        <SelectField
          label="Size"
          value={wire.gauge}
          options={GAUGES.map(({ id }) => ({ value: id, label: id }))}
          none="not known"
          onChange={(chosen) => act({ type: "setFeed", id: wire.id, changes: { gauge: chosen || undefined } })}
        />
      </div>
      <FuseSelect
        label="Fuse of the joining wire"
        fuse={wire.fuse ?? null}
        onChange={(fuse) => act({ type: "setFuse", wireId: wire.id, fuse })}
        optional
      />
    </>
  );
}

function JoinDialog({ source, onClose }: { source: Source; onClose: () => void }) {
  const machine = useWorkbench((state) => state.machine);
  const { dispatch } = useDispatch();
  const pluses = plusPlaces(machine).filter(({ at }) => at.part !== source.id);
  const minuses = returnPlaces(machine).filter(({ at }) => at.part !== source.id);
  const [plus, setPlus] = useState(0);
  const [minus, setMinus] = useState(0);
  const [error, setError] = useState<string | null>(null);
  const conductor = useConductorFields();
  const join = () => {
    const run = conductor.read();
    const [to, from] = [pluses[plus], minuses[minus]];
    if (!run || !to || !from) return;
    const result = dispatch(joinSource(machine, source.id, to.at, from.at, run));
    if (!result.ok) return setError(result.message);
    onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Join ${source.name} to a rail`}
      description="Both wires in one step. What two sources do to each other is solved: who gives, who is pushed into, and what a verdict says of it."
    >
      {pluses.length === 0 || minuses.length === 0 ? (
        <p className="text-sm">There is no bar, switch or fuse to join it to yet.</p>
      ) : (
        <form
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            join();
          }}
        >
          <PlaceField label="Its plus to" places={pluses} value={plus} onChange={setPlus} />
          <PlaceField label="Its minus to" places={minuses} value={minus} onChange={setMinus} />
          {conductor.fields}
          {error && (
            <p role="alert" className="text-sm text-stop dark:text-fix">
              {error}
            </p>
          )}
          <p className="mt-2 border-l-2 border-fix pl-2 text-xs">
            Two batteries meet only at the same volts; a charger must be made for the pack. A spark at the last connection is stored energy.
          </p>
          <Button type="submit" kind="main" className="mt-2">
            Join
          </Button>
        </form>
      )}
    </Dialog>
  );
}
