"use client";
import {
  type Announcements,
  type CollisionDetection,
  DndContext,
  type DragEndEvent,
  DragOverlay,
  type KeyboardCoordinateGetter,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  rectIntersection,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { clsx } from "clsx";
import { useEffect, useMemo, useRef, useState } from "react";
import { toast } from "sonner";
import { FAINT, HALO, pictureSvg } from "@/core/exchange/flow-svg";
import { returnPlaces } from "@/core/machine/placing";
import type { Machine, TerminalRef } from "@/core/machine/schema";
import { endName, groundTerminal } from "@/core/machine/terminals";
import { say } from "@/core/quantity/format";
import type { Flow, FlowLoad } from "@/core/returns/flow";
import { landCommand } from "@/core/returns/land";
import type { Picture, Shape, Spot, Tone } from "@/core/returns/pen";
import { pictureOf } from "@/core/returns/picture";
import { download } from "../kit/download";
import { type Paint, ShapeMark } from "../paper/Shapes";
import { TerminalSelect } from "../parts/TerminalSelect";
import { useDispatch, useWorkbench } from "../workbench/context";

/** Width and height of an element, as it changes. */
function useRoom() {
  const ref = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState<{ width: number; height: number } | null>(null);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setRoom({ width: element.clientWidth, height: element.clientHeight }));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return { ref, room };
}

function ink(tone: Tone): string {
  return tone.startsWith("rail-") ? `var(--rail-${Number(tone.slice(5)) % 6})` : `var(--${tone})`;
}

/** As the screen has it, in either theme. */
const ON_SCREEN: Paint = {
  ink,
  paper: "var(--paper)",
  faint: FAINT,
  sans: "var(--font-sans)",
  mono: "var(--font-mono)",
  halo: HALO,
};

/** One shape; what the amps of the active loads do not go through steps back. */
function Mark({ shape, active }: { shape: Shape; active: readonly string[] | null }) {
  const back = active !== null && shape.loads.length > 0 && !shape.loads.some((load) => active.includes(load));
  return <ShapeMark shape={shape} paint={ON_SCREEN} opacity={back ? 0.25 : undefined} />;
}

const place = ({ x, y, w, h }: Spot) => ({ left: x, top: y, width: w, height: h });

interface BoxProps {
  spot: Spot;
  load: FlowLoad;
  lands: string;
  selected: boolean;
  onActive: (id: string | null) => void;
  onSelect: () => void;
}

/** A load's box: shows its way on hover and focus, is selected with Enter, and carries its return when dragged. */
function LoadBox({ spot, load, lands, selected, onActive, onSelect }: BoxProps) {
  const { setNodeRef, listeners, attributes, isDragging } = useDraggable({ id: load.id });
  const drop = useDroppable({ id: `load ${load.id}`, disabled: isDragging });
  const offset = load.offsetV === null ? "no way home" : `ground ${say(load.offsetV, "voltage")}`;
  return (
    <button
      type="button"
      ref={(element) => {
        setNodeRef(element);
        drop.setNodeRef(element);
      }}
      {...attributes}
      {...listeners}
      aria-pressed={selected}
      aria-label={`${load.name}, ${say(load.amps, "current")}, ${offset}, ${lands}`}
      title={`${load.name}: ${lands}. Drag it onto a bar to land its return there.`}
      className={clsx("absolute cursor-grab touch-none", selected && "outline-2 outline-accent", drop.isOver && "outline-3 outline-accent")}
      style={place(spot)}
      onClick={onSelect}
      onPointerEnter={() => onActive(load.id)}
      onPointerLeave={() => onActive(null)}
      onFocus={() => onActive(load.id)}
      onBlur={() => onActive(null)}
    />
  );
}

interface LandingProps {
  spot: Spot;
  name: string;
  dragging: boolean;
  selected: boolean;
  onActive: (id: string | null) => void;
  onSelect: () => void;
}

/** A bar, regulator or source: a return may be dropped on it; pointed at, it shows who comes home by it. */
function Landing({ spot, name, dragging, selected, onActive, onSelect }: LandingProps) {
  const { setNodeRef, isOver } = useDroppable({ id: spot.id });
  return (
    <button
      type="button"
      ref={setNodeRef}
      aria-pressed={selected}
      aria-label={`${name}, where returns meet`}
      className={clsx(
        "absolute",
        selected && "outline-2 outline-accent",
        dragging && "border-2 border-dashed border-accent",
        isOver && "bg-tint",
      )}
      style={place(spot)}
      onClick={onSelect}
      onPointerEnter={() => onActive(spot.id)}
      onPointerLeave={() => onActive(null)}
      onFocus={() => onActive(spot.id)}
      onBlur={() => onActive(null)}
    >
      {dragging && isOver && <span className="absolute top-full left-0 bg-accent px-1 text-xs whitespace-nowrap text-paper">{name}</span>}
    </button>
  );
}

/** From landing to landing by arrow key, in reading order. */
const nextLanding: KeyboardCoordinateGetter = (event, { context }) => {
  const steps: Record<string, number> = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 };
  const step = steps[event.code];
  if (step === undefined) return undefined;
  event.preventDefault();
  const places = [...context.droppableContainers.getEnabled()]
    .filter(({ id }) => id !== `load ${context.active?.id}`)
    .flatMap(({ id }) => {
      const rect = context.droppableRects.get(id);
      return rect ? [{ id, rect }] : [];
    })
    .sort((a, b) => a.rect.left - b.rect.left || a.rect.top - b.rect.top);
  const now = places.findIndex(({ id }) => id === context.over?.id);
  const next = places[(now + step + places.length) % places.length];
  const own = context.collisionRect;
  if (!next || !own) return undefined;
  return { x: next.rect.left + next.rect.width / 2 - own.width / 2, y: next.rect.top + next.rect.height / 2 - own.height / 2 };
};

/** What the pointer is on; by keyboard, what the carried box lies on. */
const under: CollisionDetection = (args) => (args.pointerCoordinates ? pointerWithin(args) : rectIntersection(args));

/** The mirrored flow of one mode: out over the top, home underneath. */
export function FlowPicture({ machine, flow }: { machine: Machine; flow: Flow }) {
  const { ref, room } = useRoom();
  const selected = useWorkbench((state) => state.selected);
  const select = useWorkbench((state) => state.select);
  const mode = useWorkbench((state) => state.mode);
  const undo = useWorkbench((state) => state.undo);
  const { act } = useDispatch();
  const [pointed, setPointed] = useState<string | null>(null);
  const [dragging, setDragging] = useState<string | null>(null);
  const picture = useMemo(
    () => (room ? pictureOf(machine, flow, { width: room.width, height: Math.max(380, room.height - 26) }) : null),
    [machine, flow, room],
  );
  const name = (id: string) => machine.parts.find((part) => part.id === id)?.name ?? "?";
  const chosen = flow.loads.find(({ id }) => id === selected || motorsOf(machine, id).includes(selected ?? ""))?.id ?? null;
  const active = followed(flow, pointed ?? chosen ?? selected);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, {
      keyboardCodes: { start: ["Space"], cancel: ["Escape"], end: ["Space", "Enter"] },
      coordinateGetter: nextLanding,
    }),
  );
  const chosenLoad = flow.loads.find(({ id }) => id === chosen);
  const backOf = machine.wires.find(({ id }) => id === chosenLoad?.back?.wire);
  const land = (id: string, loadName: string, at: TerminalRef) => {
    const command = landCommand(machine, id, at);
    if (command && act(command)) toast(`${loadName} comes home on ${name(at.part)}`, { action: { label: "Undo", onClick: () => undo() } });
  };
  const target = (over: string | number) => String(over).replace(/^load /, "");
  const drop = ({ active: dragged, over }: DragEndEvent) => {
    setDragging(null);
    const load = flow.loads.find(({ id }) => id === dragged.id);
    const part = over && machine.parts.find(({ id }) => id === target(over.id));
    const terminal = part ? (part.kind === "converter" ? "out-" : groundTerminal(part)) : null;
    if (!load || !part || !terminal || part.id === load.id) return;
    land(load.id, load.name, { part: part.id, terminal });
  };
  const announcements: Announcements = {
    onDragStart: ({ active: dragged }) =>
      `Return of ${name(String(dragged.id))} picked up. Arrow keys go from place to place, Space lands it.`,
    onDragOver: ({ over }) => (over ? `Over ${name(target(over.id))}` : undefined),
    onDragEnd: ({ active: dragged, over }) =>
      over ? `${name(String(dragged.id))} comes home on ${name(target(over.id))}` : "Left where it was",
    onDragCancel: () => "Left where it was",
  };
  const save = (shown: Picture) =>
    download(pictureSvg(shown, `${machine.name}, ${machine.modes[flow.mode]?.name ?? ""}`), `${machine.name} returns`, "svg");
  return (
    <div ref={ref} className="relative flex h-full min-h-0 flex-col">
      {picture && (
        <>
          <div className="flex shrink-0 items-baseline gap-4 px-3.5 pt-1 text-xs text-soft">
            <span className="mr-auto">
              {mode === "worst" ? `Worst: drawn for ${machine.modes[flow.mode]?.name}. ` : ""}Out over the top, home underneath; width is
              amps, and thinner than {say(picture.floorA, "current", "up")} all bands are alike.
            </span>
            {chosenLoad && (
              <span className="flex items-baseline gap-1 text-ink">
                {chosenLoad.name} comes home on
                <TerminalSelect
                  aria-label={`${chosenLoad.name} lands on`}
                  className="field max-w-[170px] text-xs"
                  at={backOf?.to ?? { part: "", terminal: "-" }}
                  name={backOf ? endName(machine, backOf.to) : "nothing yet"}
                  places={() => returnPlaces(machine).filter((each) => each.at.part !== chosenLoad.id)}
                  onPick={(at) => land(chosenLoad.id, chosenLoad.name, at)}
                />
              </span>
            )}
            <button type="button" className="link" onClick={() => save(picture)}>
              Save as SVG
            </button>
          </div>
          <DndContext
            sensors={sensors}
            collisionDetection={under}
            onDragStart={({ active: dragged }) => setDragging(String(dragged.id))}
            onDragEnd={drop}
            onDragCancel={() => setDragging(null)}
            accessibility={{
              announcements,
              screenReaderInstructions: { draggable: "Enter selects it. Space picks its return up to land it elsewhere." },
            }}
          >
            <section className="flex min-h-0 flex-1 overflow-auto" aria-label="Flow picture">
              <ul className="sr-only">
                {picture.callouts.map((words) => (
                  <li key={words}>{words}</li>
                ))}
              </ul>
              <div className="relative my-auto shrink-0" style={{ width: picture.width, height: picture.height }}>
                <svg aria-hidden width={picture.width} height={picture.height} className="absolute inset-0">
                  {picture.shapes.map((shape, i) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: shapes have no identity beyond their place in the drawing
                    <Mark key={i} shape={shape} active={active} />
                  ))}
                </svg>
                {picture.landings.map((spot) => (
                  <Landing
                    key={spot.id}
                    spot={spot}
                    name={name(spot.id)}
                    dragging={dragging !== null}
                    selected={selected === spot.id}
                    onActive={setPointed}
                    onSelect={() => select(spot.id)}
                  />
                ))}
                {flow.loads.map((load, i) => {
                  const spot = picture.loads[i];
                  return spot ? (
                    <LoadBox
                      key={load.id}
                      spot={spot}
                      load={load}
                      lands={load.back ? `comes home on ${name(load.back.at)}` : "has no return"}
                      selected={chosen === load.id}
                      onActive={setPointed}
                      onSelect={() => select(load.id)}
                    />
                  ) : null;
                })}
              </div>
            </section>
            <DragOverlay dropAnimation={null}>
              {dragging && (
                <span className="inline-block bg-accent px-2 py-0.5 text-xs whitespace-nowrap text-paper">return of {name(dragging)}</span>
              )}
            </DragOverlay>
          </DndContext>
        </>
      )}
    </div>
  );
}

/** Loads whose way is shown: the one pointed at, or all that come home by a bar or regulator; null: nothing in particular. */
function followed(flow: Flow, id: string | null): readonly string[] | null {
  if (id === null) return null;
  if (flow.loads.some((load) => load.id === id)) return [id];
  const up = flow.returns.find((hub) => hub.id === id)?.up;
  return up ? (flow.follows[up.wire] ?? null) : null;
}

/** What hangs on a driver's channels: selected in the ledger, it is the driver's box that shows it. */
function motorsOf(machine: Machine, driver: string): string[] {
  return machine.wires.flatMap((wire) => (wire.role === "phase" && wire.from.part === driver ? [wire.to.part] : []));
}
