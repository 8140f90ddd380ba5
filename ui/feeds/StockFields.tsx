"use client";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import type { FuseRef, Stock } from "@/core/machine/schema";
import { entriesOf, type ShelfItem, stockKey, stockOf } from "@/core/machine/shelf";
import { CONNECTORS } from "@/core/reference/connectors";
import { FUSE_FAMILIES, ratingsOf, USUAL_FUSES } from "@/core/reference/fuses";
import { usualSizes } from "@/core/reference/gauges";
import { fetchShelf, putOnShelf } from "@/state/api";
import { useDispatch, useWorkbench } from "../workbench/context";

const SIZES = [...usualSizes("awg"), ...usualSizes("metric")];
const FUSES = USUAL_FUSES.flatMap((family) => ratingsOf(family).map((ratingA) => ({ family, ratingA })));

const fuseKey = ({ family, ratingA }: FuseRef) => `${family} ${ratingA}`;
const SHOWN = new Set([...SIZES.map(({ id }) => id), ...FUSES.map(fuseKey)]);
/** What an imported list holds beyond the usual sizes and families stays on it. */
const unshown = <T,>(list: readonly T[] | undefined, key: (item: T) => string) => (list ?? []).filter((item) => !SHOWN.has(key(item)));

const count = (n: number, noun: string) => `${n} ${noun}${n === 1 ? "" : "s"}`;

/** "4 sizes, 2 fuses"; null where nothing is listed. */
function counted({ gauges, fuses, connectors }: Stock): string | null {
  const counts = [
    gauges?.length ? count(gauges.length, "size") : null,
    fuses?.length ? count(fuses.length, "fuse") : null,
    connectors?.length ? count(connectors.length, "connector") : null,
  ].filter((text) => text !== null);
  return counts.length > 0 ? counts.join(", ") : null;
}

/** "Use what I have": sizes, fuses and connectors that sizing is kept to. */
export function StockFields() {
  const stock = useWorkbench((state) => state.machine.settings.stock);
  const { act } = useDispatch();
  const put = (changes: Stock) => {
    const next = { ...stock, ...changes };
    const left = Object.fromEntries(Object.entries(next).filter(([, list]) => list && list.length > 0)) as Stock;
    act({ type: "setSettings", changes: { stock: Object.keys(left).length > 0 ? left : undefined } });
  };
  const listed = counted(stock ?? {});
  const [items, setItems] = useState<readonly ShelfItem[] | null>(null);
  const kept = useMemo(() => items && stockOf(items), [items]);
  const keptText = kept && JSON.stringify(kept) !== JSON.stringify(stock) ? counted(kept) : null;
  const lying = new Set((items ?? []).flatMap(({ thing }) => (thing.sort === "part" ? [] : [stockKey(thing)])));
  const missing = entriesOf(stock ?? {}).filter(({ thing }) => thing.sort !== "part" && !lying.has(stockKey(thing)));
  const keep = async () => {
    const put = await putOnShelf(missing);
    if (!put.ok) return toast.error(put.detail);
    setItems([...(items ?? []), ...put.items]);
    toast("On the shelf, for all your machines");
  };
  return (
    <details
      className="mt-1 text-sm"
      onToggle={(event) => {
        if (event.currentTarget.open) void fetchShelf().then(setItems);
      }}
    >
      <summary className="cursor-pointer">
        Use what I have <span className="text-soft">{listed ? `: only ${listed}` : ": nothing ticked, so anything may be taken"}</span>
      </summary>
      <div className="grid gap-x-8 gap-y-2 pt-1 lg:grid-cols-3">
        <Ticks
          legend="Wire sizes"
          items={SIZES.map(({ id }) => ({ key: id, label: id }))}
          on={new Set(stock?.gauges)}
          onToggle={(gauges) => put({ gauges: [...gauges, ...unshown(stock?.gauges, (id) => id)] })}
        />
        <Ticks
          legend="Fuses"
          items={FUSES.map((fuse) => ({
            key: fuseKey(fuse),
            label: `${fuse.ratingA} A ${FUSE_FAMILIES[fuse.family].name}`,
          }))}
          on={new Set(stock?.fuses?.map(fuseKey))}
          onToggle={(keys) => put({ fuses: [...FUSES.filter((fuse) => keys.includes(fuseKey(fuse))), ...unshown(stock?.fuses, fuseKey)] })}
        />
        <Ticks
          legend="Connectors"
          items={CONNECTORS.map(({ id, name }) => ({ key: id, label: name }))}
          on={new Set(stock?.connectors)}
          onToggle={(connectors) => put({ connectors })}
        />
      </div>
      <p className="flex flex-wrap gap-x-4 pt-1 text-xs">
        {missing.length > 0 && items && (
          <button type="button" className="link" onClick={() => void keep()}>
            Put what is ticked on the shelf, for all my machines
          </button>
        )}
        {keptText && kept && (
          <button type="button" className="link" onClick={() => act({ type: "setSettings", changes: { stock: kept } })}>
            Take what lies on the shelf ({keptText})
          </button>
        )}
      </p>
    </details>
  );
}

function Ticks({
  legend,
  items,
  on,
  onToggle,
}: {
  legend: string;
  items: readonly { key: string; label: string }[];
  on: ReadonlySet<string>;
  onToggle: (keys: string[]) => void;
}) {
  return (
    <fieldset className="min-w-0">
      <legend className="text-xs font-bold">{legend}</legend>
      <div className="max-h-[210px] overflow-y-auto border-y border-hair py-1 text-[12.5px]">
        {items.map(({ key, label }) => (
          <label key={key} className="flex items-baseline gap-1.5">
            <input
              type="checkbox"
              checked={on.has(key)}
              onChange={(event) =>
                onToggle(items.map((item) => item.key).filter((each) => (each === key ? event.target.checked : on.has(each))))
              }
            />
            <span className="min-w-0">{label}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
