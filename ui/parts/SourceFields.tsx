"use client";
import { toast } from "sonner";
import type { ChangesOf } from "@/core/machine/commands";
import { freshId, newPart } from "@/core/machine/defaults";
import { type Converter, MANAGEMENTS, type Pack, type Part, type Supply } from "@/core/machine/schema";
import { entryOf, goesOnShelf, type ShelfPart } from "@/core/machine/shelf";
import { OVERLOADS, type Overload, SUPPLY_KINDS, SUPPLY_MAKES, USB_PORT_IDS, USB_PORTS } from "@/core/reference/supplies";
import { putOnShelf } from "@/state/api";
import { QuantityInput } from "../kit/QuantityInput";
import { SelectField } from "../kit/Select";
import { useDispatch, useWorkbench } from "../workbench/context";

const MANAGEMENT_NAMES = {
  inside: "a board inside",
  separate: "alarm and balance charger beside it",
  none: "nothing",
} as const satisfies Record<(typeof MANAGEMENTS)[number], string>;

const OVERLOAD_NAMES = {
  hiccup: "off and on again (hiccup)",
  "constant current": "holds the current, volts fall",
  "fold-back": "folds back: less current as volts fall",
  "latch-off": "off until the mains is cycled",
} as const satisfies Record<Overload, string>;

/** What watches a pack's cells, and whether current may enter it. */
export function PackFields({ pack }: { pack: Pack }) {
  const { act, dispatch } = useDispatch();
  const change = (changes: ChangesOf<"pack">) => act({ type: "updatePart", id: pack.id, changes });
  return (
    <>
      <SelectField
        label="Cells are watched by"
        none="not known"
        value={pack.management}
        options={MANAGEMENTS.map((value) => ({ value, label: MANAGEMENT_NAMES[value] }))}
        onChange={(management) => change({ management })}
      />
      <QuantityInput
        slim
        optional
        label="Blocks in series"
        dimension="count"
        min={1}
        max={20}
        value={pack.blocks}
        placeholder="(1)"
        hint="Sold as one each and joined: two 12 V blocks for 24 V. Its cells count all of them."
        onCommit={(blocks) =>
          blocks === undefined || Number.isInteger(blocks)
            ? dispatch({ type: "updatePart", id: pack.id, changes: { blocks } })
            : { ok: false, message: "A whole number of blocks." }
        }
      />
      <DiodeField part={pack} />
    </>
  );
}

/** Whether current may enter a source or only leave it. */
export function DiodeField({ part }: { part: Pack | Supply | Converter }) {
  const { act } = useDispatch();
  return (
    <label className="mt-1 block text-sm">
      <input
        type="checkbox"
        className="mr-1.5"
        checked={part.diode ?? false}
        onChange={(event) => act({ type: "updatePart", id: part.id, changes: { diode: event.target.checked || undefined } })}
      />
      Ideal diode at its {part.kind === "converter" ? "output" : "plus"}: current leaves, none enters
    </label>
  );
}

/** What kind of supply it is, how it behaves when too much is asked, and the other outputs of its box. */
export function SupplyFields({ supply }: { supply: Supply }) {
  const { act } = useDispatch();
  const parts = useWorkbench((state) => state.machine.parts);
  const select = useWorkbench((state) => state.select);
  const change = (changes: ChangesOf<"supply">) => act({ type: "updatePart", id: supply.id, changes });
  const first = parts.find(({ id }) => id === supply.box);
  const others = parts.filter((part) => part.kind === "supply" && part.box === supply.id);
  const addOutput = () => {
    const id = freshId("p", parts);
    const part = newPart("supply", id, `${supply.name}, output ${others.length + 2}`.slice(0, 80), {
      box: supply.id,
      outputV: { value: 5, provenance: "guess" },
      ...(supply.make ? { make: supply.make } : {}),
      ...(supply.overload ? { overload: supply.overload } : {}),
    });
    if (act({ type: "addPart", part })) select(id);
  };
  return (
    <>
      <SelectField
        label="Make"
        none="not known"
        value={supply.make}
        options={SUPPLY_MAKES.map((value) => ({ value, label: SUPPLY_KINDS[value].name }))}
        onChange={(make) =>
          change({ make, overload: make && SUPPLY_KINDS[make].overload, ...(make === "usb" ? {} : { usbPort: undefined }) })
        }
      />
      {supply.make && <p className="text-xs text-soft">{SUPPLY_KINDS[supply.make].remark}</p>}
      {supply.make === "usb" && (
        <SelectField
          label="Port"
          none="not known: plan on 0.5 A"
          value={supply.usbPort}
          options={USB_PORT_IDS.map((value) => ({ value, label: `${USB_PORTS[value].name}, ${USB_PORTS[value].allowedA} A` }))}
          onChange={(port) =>
            change({ usbPort: port, ...(port ? { ratedA: { value: USB_PORTS[port].allowedA, provenance: "typical" } } : {}) })
          }
        />
      )}
      <SelectField
        label="Beyond its limit"
        none="not known"
        value={supply.overload}
        options={OVERLOADS.map((value) => ({ value, label: OVERLOAD_NAMES[value] }))}
        onChange={(overload) => change({ overload })}
      />
      <label className="mt-1 block text-sm">
        <input
          type="checkbox"
          className="mr-1.5"
          checked={supply.sinks ?? false}
          onChange={(event) => change({ sinks: event.target.checked || undefined })}
        />
        Takes current back (few do)
      </label>
      {first ? (
        <p className="mt-1 text-xs text-soft">
          One of the outputs of {first.name}: they share a minus.{" "}
          <button type="button" className="link" onClick={() => change({ box: undefined })}>
            It is a box of its own
          </button>
        </p>
      ) : (
        <p className="mt-1 text-xs">
          <button type="button" className="link" onClick={addOutput}>
            Its box has another output
          </button>
          {others.length > 0 && <span className="text-soft"> besides {others.map(({ name }) => name).join(", ")}</span>}
        </p>
      )}
    </>
  );
}

/** How far an output may be off what it is set to. */
export function AccuracyField({ part }: { part: Supply | Converter }) {
  const { dispatch } = useDispatch();
  const { tolerance, ...figure } = part.outputV;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_88px] items-baseline gap-2">
      <QuantityInput
        slim
        optional
        label="Output off by at most"
        dimension="percent"
        max={50}
        value={tolerance === undefined ? undefined : Number((tolerance * 100).toPrecision(6))}
        hint="Either way; measured, it is nothing."
        onCommit={(percent) =>
          dispatch({
            type: "updatePart",
            id: part.id,
            changes: { outputV: percent === undefined ? figure : { ...figure, tolerance: percent / 100 } },
          })
        }
      />
    </div>
  );
}

/** What a part costs, in the builder's own currency. */
export function CostField({ part }: { part: Part }) {
  const { dispatch } = useDispatch();
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_88px] items-baseline gap-2">
      <QuantityInput
        slim
        optional
        label="Cost"
        dimension="ratio"
        value={part.cost}
        hint="In your own currency."
        onCommit={(cost) => dispatch({ type: "updatePart", id: part.id, changes: { cost } })}
      />
    </div>
  );
}

/** Keeps a part's figures for other machines. */
export function ShelfButton({ part }: { part: Part }) {
  if (!goesOnShelf(part.kind)) return null;
  const put = async () => {
    const kept = await putOnShelf([entryOf(part as ShelfPart)]);
    if (!kept.ok) toast.error(kept.detail);
    else toast(`${part.name} is on the shelf: it is offered wherever such a part is chosen.`);
  };
  return (
    <button type="button" className="link text-xs" onClick={() => void put()}>
      To the shelf
    </button>
  );
}
