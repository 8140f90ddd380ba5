"use client";
import { type ReactNode, useMemo } from "react";
import { adaptersOf, crossMates, plugsOf } from "@/core/connectors/mates";
import { BLED_V, BLEED_S, type ContactFigures, type Contacts } from "@/core/figures/contacts";
import { say } from "@/core/quantity/format";
import { connectorById } from "@/core/reference/connectors";
import { FigureTable, None, RowName } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { RailTag } from "../kit/RailTag";
import { Explained } from "../words/Explained";
import { useLedger, useWorkbench } from "../workbench/context";
import { useAsked } from "../workbench/useQuestion";

/** What can be plugged into what, what the emergency stop leaves alive, and what each contact breaks and charges. */
export function PlugsView() {
  return (
    <div className="min-h-0 flex-1 overflow-auto px-3 py-2" tabIndex={-1}>
      <Plugs />
      <Stops />
    </div>
  );
}

function Plugs() {
  const machine = useWorkbench((state) => state.machine);
  const select = useWorkbench((state) => state.select);
  const ledger = useLedger();
  const plugs = useMemo(() => plugsOf(machine, ledger), [machine, ledger]);
  const crossed = useMemo(() => crossMates(machine, ledger), [machine, ledger]);
  const bad = new Set(crossed.flatMap((mates) => mates.plugs.map(({ wire, end }) => `${wire} ${end}`)));
  const groups = useMemo(() => {
    const found = new Map<string, typeof plugs>();
    for (const plug of plugs) {
      const key = `${plug.family} ${plug.coding ?? ""}`;
      found.set(key, [...(found.get(key) ?? []), plug]);
    }
    return [...found.values()];
  }, [plugs]);
  const short = adaptersOf(machine);
  const partName = (id: string) => machine.parts.find((part) => part.id === id)?.name ?? "";
  const isWrong = (group: typeof plugs) => group.some(({ wire, end }) => bad.has(`${wire} ${end}`));
  return (
    <section aria-label="Plugs">
      <h2 className="text-sm font-bold">
        <Explained>Plugs</Explained>
      </h2>
      {plugs.length === 0 ? (
        <p className="text-sm text-soft">
          No feed names a plug yet. Select a feed in the ledger and say under “Ends and way” what it ends in.
        </p>
      ) : (
        <FigureTable
          className="mt-1"
          caption="Plugs by family and key"
          rows={groups}
          keyOf={([first]) => `${first?.family} ${first?.coding}`}
          columns={[
            {
              label: "Family",
              cellClass: "!whitespace-normal font-semibold",
              cell: ([first]) => connectorById(first?.family ?? "")?.name,
            },
            { label: "Key or colour", cell: ([first]) => first?.coding ?? <None>none</None> },
            {
              label: "Carries",
              cell: (group) =>
                [...new Set(group.map(({ rail, phase }) => (phase ? "motor" : (rail ?? ""))))].map((rail) => {
                  const found = ledger.rails.find(({ origin }) => origin === rail);
                  return (
                    <span key={rail} className="pr-2">
                      {found ? <RailTag rail={found} /> : rail === "motor" ? "motor leads" : "no rail"}
                    </span>
                  );
                }),
            },
            {
              label: "Where",
              cellClass: "!whitespace-normal text-xs",
              cell: (group) =>
                group.map(({ wire, end }, i) => {
                  const found = machine.wires.find(({ id }) => id === wire);
                  const part = found ? found[end].part : "";
                  return (
                    <span key={`${wire} ${end}`}>
                      {i > 0 && ", "}
                      <button type="button" className="link font-normal" onClick={() => select(found?.to.part ?? part)}>
                        {partName(part)}
                      </button>
                    </span>
                  );
                }),
            },
            {
              label: "Goes into the wrong one?",
              cellClass: (group) => (isWrong(group) ? "font-bold text-fix" : "text-soft"),
              cell: (group) => (isWrong(group) ? "Yes" : "no"),
            },
          ]}
        />
      )}
      {short.length > 0 && (
        <p className="mt-1 text-sm">
          Adapters ({short.map((wire) => partName(wire.to.part)).join(", ")}): a short lead with two kinds of plug undoes the keys of both.
          Label it with what it may join.
        </p>
      )}
    </section>
  );
}

function Stops() {
  const { value: found, failed, start } = useAsked<Contacts | null>("contacts", (ask) => ask("contacts"));
  const parts = useWorkbench((state) => state.machine.parts);
  const school = useWorkbench((state) => state.machine.settings.schools.stop);
  const name = (id: string) => parts.find((part) => part.id === id)?.name ?? "";
  const names = (ids: readonly string[]) => ids.map(name).join(", ");
  if (failed) return <BrokeOff what="The contacts" again={start} />;
  if (!found) return <p className="mt-4 text-sm text-soft">Looking at the contacts…</p>;
  return (
    <div className="mt-4 grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.6fr)]">
      <section aria-label="Emergency stop">
        <h2 className="text-sm font-bold">
          <Explained>With the emergency stop pressed</Explained>
        </h2>
        {found.stop === null ? (
          <p className="text-sm text-soft">
            {school === undefined
              ? "No school is chosen in the settings and no contact is marked, so nothing is claimed."
              : "No contact is marked as opened by the emergency stop. Mark it on the switch, under Part."}
          </p>
        ) : (
          <dl className="text-sm">
            {[
              ["opens", names(found.stop.stops)],
              ["without power", names(found.stop.dead) || "nothing"],
              ["still alive", names(found.stop.alive) || "nothing"],
              ...(found.stop.logicDark.length > 0 ? [["of these boards go dark", names(found.stop.logicDark)]] : []),
            ].map(([label, text]) => (
              <div key={label} className="grid grid-cols-[110px_minmax(0,1fr)] border-b border-hair py-1">
                <dt className="text-soft">{label}</dt>
                <dd>{text}</dd>
              </div>
            ))}
          </dl>
        )}
        <p className="mt-1 text-xs text-soft">
          Capacitors keep their charge after a stop, and a stop holds no load up. This is no safety assessment: ISO 13850, IEC 60204-1 and a
          competent person decide.
        </p>
      </section>
      <section aria-label="Contacts">
        <h2 className="text-sm font-bold">
          <Explained>Contacts</Explained>
        </h2>
        {found.contacts.length === 0 ? (
          <p className="text-sm text-soft">There is no switch in the plan.</p>
        ) : (
          <FigureTable
            className="mt-1"
            caption="What each contact breaks and charges"
            rows={found.contacts}
            keyOf={({ id }) => id}
            partOf={({ id }) => id}
            columns={[
              {
                label: "Contact",
                cell: ({ id }, place) => (
                  <RowName place={place}>
                    <b className="font-semibold">{name(id)}</b>
                  </RowName>
                ),
              },
              {
                label: "Has to break",
                num: true,
                cellClass: "fig",
                cell: ({ amps, volts }) => `${say(amps, "current", "up")} at ${say(volts, "voltage", "up")}`,
              },
              {
                label: "Fills",
                num: true,
                cellClass: "fig",
                cell: ({ bank }) => (
                  <>
                    {bank === null || bank.farads === 0 ? "–" : `${say(bank.farads, "capacitance")}, ${say(bank.joules, "energy", "up")}`}
                    {bank && bank.unsaid.length > 0 && <span className="font-sans text-ask"> and {bank.unsaid.length} not told</span>}
                  </>
                ),
              },
              { label: "Precharge", cellClass: "!whitespace-normal text-xs", cell: prechargeWords },
            ]}
          />
        )}
      </section>
    </div>
  );
}

/** What charges the capacitors behind a contact, and what empties them again. */
function prechargeWords({ bank, precharge }: ContactFigures): ReactNode {
  if (!precharge) return bank && bank.farads > 0 ? "not needed" : "–";
  return (
    <>
      {precharge.planned ? "" : "wants about "}
      <span className="fig">{say(precharge.ohm, "resistance")}</span>: {say(precharge.seconds, "time", "up")} to fill, peak{" "}
      <span className="fig">
        {say(precharge.peakA, "current", "up")}, {say(precharge.peakW, "power", "up")}
      </span>
      , {say(bank?.joules ?? 0, "energy", "up")} a shot, {say(precharge.gapV, "voltage", "up")} left.
      {bank?.bleedOhm != null &&
        ` ${say(bank.bleedOhm, "resistance", "down")} across it empties it to ${BLED_V} V within ${BLEED_S} s of opening.`}
    </>
  );
}
