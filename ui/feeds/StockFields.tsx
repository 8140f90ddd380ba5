"use client";
import type { Settings } from "@/core/machine/schema";
import { CONNECTORS } from "@/core/reference/connectors";
import { FUSE_FAMILIES, ratingsOf, USUAL_FUSES } from "@/core/reference/fuses";
import { usualSizes } from "@/core/reference/gauges";
import { useDispatch, useWorkbench } from "../workbench/context";

type Stock = NonNullable<Settings["stock"]>;

const SIZES = [...usualSizes("awg"), ...usualSizes("metric")];
const FUSES = USUAL_FUSES.flatMap((family) => ratingsOf(family).map((ratingA) => ({ family, ratingA })));

/** "Use what I have": sizes, fuses and connectors that sizing is kept to. */
export function StockFields() {
  const stock = useWorkbench((state) => state.machine.settings.stock);
  const { act } = useDispatch();
  const put = (changes: Stock) => {
    const next = { ...stock, ...changes };
    const left = Object.fromEntries(Object.entries(next).filter(([, list]) => list && list.length > 0)) as Stock;
    act({ type: "setSettings", changes: { stock: Object.keys(left).length > 0 ? left : undefined } });
  };
  const counts = [
    stock?.gauges?.length ? `${stock.gauges.length} sizes` : null,
    stock?.fuses?.length ? `${stock.fuses.length} fuses` : null,
    stock?.connectors?.length ? `${stock.connectors.length} connectors` : null,
  ].filter((text) => text !== null);
  return (
    <details className="mt-1 text-sm">
      <summary className="cursor-pointer">
        Use what I have{" "}
        <span className="text-soft">
          {counts.length > 0 ? `: only ${counts.join(", ")}` : ": nothing ticked, so anything may be taken"}
        </span>
      </summary>
      <div className="grid gap-x-8 gap-y-2 pt-1 lg:grid-cols-3">
        <Ticks
          legend="Wire sizes"
          items={SIZES.map(({ id }) => ({ key: id, label: id }))}
          on={new Set(stock?.gauges)}
          onToggle={(gauges) => put({ gauges })}
        />
        <Ticks
          legend="Fuses"
          items={FUSES.map((fuse) => ({
            key: `${fuse.family} ${fuse.ratingA}`,
            label: `${fuse.ratingA} A ${FUSE_FAMILIES[fuse.family].name}`,
          }))}
          on={new Set(stock?.fuses?.map((fuse) => `${fuse.family} ${fuse.ratingA}`))}
          onToggle={(keys) => put({ fuses: FUSES.filter((fuse) => keys.includes(`${fuse.family} ${fuse.ratingA}`)) })}
        />
        <Ticks
          legend="Connectors"
          items={CONNECTORS.map(({ id, name }) => ({ key: id, label: name }))}
          on={new Set(stock?.connectors)}
          onToggle={(connectors) => put({ connectors })}
        />
      </div>
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
      <div className="max-h-[132px] overflow-y-auto border-y border-hair py-1 text-[12.5px]">
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
