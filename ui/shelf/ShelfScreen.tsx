"use client";
import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { csvText } from "@/core/exchange/csv";
import { shelfTable } from "@/core/exchange/shelf-csv";
import { type ShelfItem, thingName } from "@/core/machine/shelf";
import { changeOnShelf, fetchShelf, type ShelfUse, takeOffShelf } from "@/state/api";
import { FigureTable } from "../grid/FigureTable";
import { Button } from "../kit/Button";
import { download } from "../kit/download";
import { finder } from "../kit/finds";
import { PageHead } from "../kit/PageHead";
import { Select } from "../kit/Select";
import { ServerLink } from "../kit/ServerLink";
import { LeftBehind } from "../machines/LeftBehind";
import { EditShelfDialog } from "./EditShelfDialog";
import { ImportShelfDialog } from "./ImportShelfDialog";
import { NewShelfDialog } from "./NewShelfDialog";
import { knownBy, ratingWords, sortWords, usesOf } from "./words";

/** What lies on the builder's shelf: ratings, how they are known, how many, and where each is used. */
export function ShelfScreen({ items: asOpened, uses }: { items: readonly ShelfItem[]; uses: readonly ShelfUse[] }) {
  const router = useRouter();
  const [items, setItems] = useState(asOpened);
  const [text, setText] = useState("");
  const [sort, setSort] = useState<string | undefined>(undefined);
  const [asked, setAsked] = useState<"new" | "import" | { edit: ShelfItem } | { ratings: ShelfItem } | null>(null);
  const sorts = useMemo(() => [...new Set(items.map(({ thing }) => sortWords(thing)))].sort(), [items]);
  const rows = useMemo(() => {
    const finds = finder(text);
    return items.filter(
      ({ thing, note, quirks }) =>
        (sort === undefined || sortWords(thing) === sort) && finds(`${thingName(thing)} ${ratingWords(thing)} ${note} ${quirks}`),
    );
  }, [items, sort, text]);
  const refresh = async () => {
    const found = await fetchShelf();
    if (found) setItems(found);
    router.refresh();
  };
  const takeOff = async (item: ShelfItem) => {
    if (!(await takeOffShelf(item.id))) return toast.error("It stays on the shelf: the server does not answer.");
    await refresh();
    toast(`${thingName(item.thing)} is off the shelf`, {
      action: {
        label: "Undo",
        onClick: async () => {
          const back = await changeOnShelf(item);
          if (!back.ok) toast.error(`${thingName(item.thing)} is not back on the shelf. ${back.detail}`);
          await refresh();
        },
      },
    });
  };
  const counted = items.filter(({ count }) => count !== null).length;
  return (
    <div className="mx-auto max-w-[1240px] px-6 pb-10 max-sm:px-3">
      <PageHead title="Shelf" says="offered wherever a part is chosen, kept to when sizing, and taken off the buy list">
        <Button onClick={() => setAsked("import")}>Import a list</Button>
        <Button disabled={items.length === 0} onClick={() => download(csvText(shelfTable(items)), "shelf", "csv")}>
          Save as CSV
        </Button>
        <Button kind="main" onClick={() => setAsked("new")}>
          Put something on it
        </Button>
      </PageHead>
      <main>
        {items.length === 0 ? (
          <div className="max-w-xl py-10 text-sm">
            <p className="text-lg font-bold">Nothing lies on it yet</p>
            <p className="mt-2 text-soft">
              Put drivers, regulators, packs, wire, fuses and connectors you own on it: from a list, one by one, or with “To the shelf” at
              any part of a machine. From then on they are offered first.
            </p>
          </div>
        ) : (
          <>
            <div className="flex flex-wrap items-baseline gap-4 py-2 text-sm">
              <input
                aria-label="Find on the shelf"
                placeholder="find"
                className="field w-[220px]"
                value={text}
                onChange={(event) => setText(event.target.value)}
              />
              <Select
                aria-label="Kind"
                none="all kinds"
                value={sort}
                options={sorts.map((each) => ({ value: each, label: each }))}
                onChange={setSort}
              />
              <span className="ml-auto text-soft">
                <span className="fig text-ink">{rows.length}</span> of {items.length}, {counted} counted
              </span>
            </div>
            <div className="overflow-x-auto">
              <FigureTable
                className="[&_td]:py-1 [&_td]:align-top"
                caption="Shelf"
                rows={rows}
                keyOf={({ id }) => id}
                empty={<p className="py-6 text-sm text-soft">Nothing on it goes by these words.</p>}
                columns={[
                  {
                    label: "What",
                    sortBy: ({ thing }) => thingName(thing),
                    cellClass: "min-w-[180px] !whitespace-normal",
                    cell: (item) => (
                      <>
                        <button type="button" className="text-left font-bold hover:underline" onClick={() => setAsked({ edit: item })}>
                          {thingName(item.thing)}
                        </button>
                        {item.note && <span className="block text-xs text-soft">{item.note}</span>}
                      </>
                    ),
                  },
                  {
                    label: "Kind",
                    sortBy: ({ thing }) => sortWords(thing),
                    headClass: "max-sm:hidden",
                    cellClass: "max-sm:hidden",
                    cell: ({ thing }) => sortWords(thing),
                  },
                  {
                    label: "How many",
                    num: true,
                    sortBy: ({ count }) => count ?? -1,
                    cellClass: "fig",
                    cell: ({ thing, count }) =>
                      count === null ? (
                        <span className="font-sans text-xs text-soft">some</span>
                      ) : (
                        <span className={count === 0 ? "font-bold text-fix" : "font-bold"}>
                          {count}
                          {thing.sort === "wire" && " m"}
                          {count === 0 && <span className="sr-only">, none left</span>}
                        </span>
                      ),
                  },
                  {
                    label: "Ratings",
                    headClass: "max-sm:hidden",
                    cellClass: "!whitespace-normal text-xs max-w-[320px] max-sm:hidden",
                    cell: ({ thing }) => ratingWords(thing),
                  },
                  {
                    label: "Known by",
                    sortBy: ({ thing }) => knownBy(thing) ?? "",
                    headClass: "max-md:hidden",
                    cellClass: "text-xs max-md:hidden",
                    cell: ({ thing }) => knownBy(thing) ?? "–",
                  },
                  {
                    label: "Found out",
                    headClass: "max-lg:hidden",
                    cellClass: "!whitespace-pre-line text-xs max-w-[220px] max-lg:hidden",
                    cell: ({ quirks }) => quirks || "–",
                  },
                  {
                    label: "Used in",
                    headClass: "max-sm:hidden",
                    cellClass: "!whitespace-normal text-xs max-w-[200px] max-sm:hidden",
                    sortBy: (item) => -usesOf(item, uses).length,
                    cell: (item) => <Uses uses={usesOf(item, uses)} />,
                  },
                  {
                    label: "Actions",
                    hidden: true,
                    cellClass: "text-xs",
                    cell: (item) => (
                      <button
                        type="button"
                        className="link"
                        aria-label={`Take ${thingName(item.thing)} off the shelf`}
                        onClick={() => void takeOff(item)}
                      >
                        Take off
                      </button>
                    ),
                  },
                ]}
              />
            </div>
          </>
        )}
      </main>
      {asked === "import" && <ImportShelfDialog onClose={() => setAsked(null)} onDone={() => void refresh()} />}
      {asked === "new" && <NewShelfDialog onClose={() => setAsked(null)} onDone={() => void refresh()} />}
      {asked !== null && typeof asked === "object" && "edit" in asked && (
        <EditShelfDialog
          item={asked.edit}
          onClose={() => setAsked(null)}
          onDone={() => void refresh()}
          onRatings={() => setAsked({ ratings: asked.edit })}
        />
      )}
      {asked !== null && typeof asked === "object" && "ratings" in asked && (
        <NewShelfDialog item={asked.ratings} onClose={() => setAsked(null)} onDone={() => void refresh()} />
      )}
      <LeftBehind />
    </div>
  );
}

/** Machines a thing is used in, each a way there. */
function Uses({ uses }: { uses: readonly ShelfUse[] }) {
  if (uses.length === 0) return <span className="text-soft">–</span>;
  return uses.slice(0, 4).map(({ machine, name, count }, i) => (
    <span key={machine}>
      {i > 0 && ", "}
      <ServerLink href={`/m/${machine}/feeds`} className="hover:underline">
        {name}
      </ServerLink>
      {count > 1 && <span className="whitespace-nowrap text-soft"> × {count}</span>}
      {i === 3 && uses.length > 4 && ` and ${uses.length - 4} more`}
    </span>
  ));
}
