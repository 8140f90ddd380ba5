// @vitest-environment jsdom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import { EditCell } from "./EditCell";
import { FigureTable, RowName, type TableColumn } from "./FigureTable";
import { useGridKeys } from "./useGridKeys";

afterEach(cleanup);

const parse = (text: string) =>
  Number.isFinite(Number(text)) ? ({ ok: true, value: Number(text) } as const) : ({ ok: false, message: "A number." } as const);

describe("a cell that is edited in place", () => {
  function open(commit = vi.fn(() => ({ ok: true }) as const)) {
    render(
      <EditCell initial="12" label="Amps" parse={parse} commit={commit}>
        12 A
      </EditCell>,
    );
    return { commit, user: userEvent.setup(), cell: screen.getByRole("button", { name: "Amps. Edit" }) };
  }

  it("opens on Enter with its text, saves on Enter and gives the focus back", async () => {
    const { commit, user, cell } = open();
    cell.focus();
    await user.keyboard("{Enter}");
    expect(screen.getByRole("textbox")).toHaveProperty("value", "12");
    await user.keyboard("34{Enter}");
    expect(commit).toHaveBeenCalledExactlyOnceWith(34);
    expect(screen.queryByRole("textbox")).toBeNull();
    expect(document.activeElement).toBe(cell);
  });

  it("opens on the first digit with that digit alone, and Escape gives the old value back", async () => {
    const { commit, user, cell } = open();
    cell.focus();
    await user.keyboard("7");
    expect(screen.getByRole("textbox")).toHaveProperty("value", "7");
    await user.keyboard("{Escape}");
    expect(commit).not.toHaveBeenCalled();
    expect(document.activeElement).toBe(cell);
  });

  it("keeps what does not fit, with a message beside it, until it fits", async () => {
    const { commit, user, cell } = open();
    await user.click(cell);
    await user.clear(screen.getByRole("textbox"));
    await user.keyboard("many{Enter}");
    expect(screen.getByRole("textbox")).toHaveProperty("value", "many");
    expect(screen.getByRole("alert").textContent).toBe("A number.");
    expect(screen.getByRole("textbox").getAttribute("aria-invalid")).toBe("true");
    await user.clear(screen.getByRole("textbox"));
    await user.keyboard("5{Enter}");
    expect(commit).toHaveBeenCalledExactlyOnceWith(5);
  });

  it("keeps what the plan refuses in the same way", async () => {
    const { user, cell } = open(vi.fn(() => ({ ok: false, message: "Too much." }) as never));
    await user.click(cell);
    await user.keyboard("9{Enter}");
    expect(screen.getByRole("alert").textContent).toBe("Too much.");
  });

  it("saves once when it is left, and not at all when nothing was changed", async () => {
    const { commit, user, cell } = open();
    await user.click(cell);
    await user.tab();
    expect(commit).not.toHaveBeenCalled();
    await user.click(cell);
    await user.keyboard("8");
    await user.tab();
    expect(commit).toHaveBeenCalledExactlyOnceWith(8);
  });
});

function Grid({ reveal }: { reveal?: (row: number) => void }) {
  const onKeyDown = useGridKeys(4, 3, reveal);
  const has = [
    ["00", "01", "02"],
    ["10", "12"],
    ["20", "21", "22"],
  ];
  return (
    <table onKeyDown={onKeyDown}>
      <tbody>
        {has.map((row) => (
          <tr key={row[0]}>
            <td>
              {row.map((place) => (
                <button key={place} type="button" data-r={place[0]} data-c={place[1]}>
                  {place}
                </button>
              ))}
              {row[0] === "00" && <input aria-label="typing" data-r={0} data-c={9} />}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

describe("arrow keys in a grid", () => {
  const at = () => document.activeElement?.textContent;

  it("go to the next cell there is, over a gap to the nearest, and stop at the edge", async () => {
    render(<Grid />);
    const user = userEvent.setup();
    screen.getByText("00").focus();
    await user.keyboard("{ArrowRight}");
    expect(at()).toBe("01");
    await user.keyboard("{ArrowDown}");
    // The middle row has nothing in this column: what is nearest takes it.
    expect(at()).toBe("10");
    await user.keyboard("{ArrowRight}");
    expect(at()).toBe("12");
    await user.keyboard("{ArrowRight}{ArrowDown}");
    expect(at()).toBe("22");
    await user.keyboard("{ArrowUp}{ArrowUp}{ArrowUp}{ArrowLeft}");
    expect(at()).toBe("01");
  });

  it("ask for a row that is not there yet, and leave a field that is typed in alone", async () => {
    const reveal = vi.fn();
    render(<Grid reveal={reveal} />);
    const user = userEvent.setup();
    screen.getByText("21").focus();
    await user.keyboard("{ArrowDown}");
    expect(reveal).toHaveBeenCalledExactlyOnceWith(3);
    const field = screen.getByLabelText("typing");
    field.focus();
    await user.keyboard("{ArrowRight}");
    expect(document.activeElement).toBe(field);
  });
});

describe("a table told by columns", () => {
  const rows = [
    { id: "b", amps: 2 },
    { id: "a", amps: 10 },
    { id: "c", amps: 1 },
  ];
  const columns: TableColumn<(typeof rows)[number]>[] = [
    { label: "Part", sortBy: ({ id }) => id, cell: ({ id }, place) => <RowName place={place}>{id}</RowName> },
    { label: "Words", cell: () => "no stop for keys" },
    {
      label: "Amps",
      num: true,
      sortBy: ({ amps }) => amps,
      cellClass: ({ amps }) => amps > 5 && "hot",
      cell: ({ amps }, { r, c }) => (
        <button type="button" data-r={r} data-c={c}>
          {amps}
        </button>
      ),
    },
    { label: "Remove", hidden: true, cell: () => null },
  ];
  const table = (over: Partial<Parameters<typeof FigureTable<(typeof rows)[number]>>[0]> = {}) =>
    render(<FigureTable caption="Parts" columns={columns} rows={rows} keyOf={({ id }) => id} {...over} />);
  const order = () => screen.getAllByRole("row").flatMap((row) => row.querySelector("td button")?.textContent ?? []);

  it("numbers its cells by its columns, so that arrow keys miss none", async () => {
    table();
    const user = userEvent.setup();
    screen.getByText("b").focus();
    await user.keyboard("{ArrowRight}");
    expect(document.activeElement?.textContent).toBe("2");
    await user.keyboard("{ArrowDown}{ArrowLeft}");
    expect(document.activeElement?.textContent).toBe("a");
    expect(screen.getByText("10").closest("td")?.className).toBe("num hot");
  });

  it("sorts by the columns that say by what, either way, and tells readers", async () => {
    table();
    const user = userEvent.setup();
    expect(order()).toEqual(["b", "a", "c"]);
    await user.click(screen.getByRole("button", { name: "Amps" }));
    expect(order()).toEqual(["c", "b", "a"]);
    await user.click(screen.getByRole("button", { name: "Amps" }));
    expect(order()).toEqual(["a", "b", "c"]);
    expect(screen.getByRole("columnheader", { name: "Amps" }).getAttribute("aria-sort")).toBe("descending");
    expect(screen.getByRole("columnheader", { name: "Words" }).getAttribute("aria-sort")).toBeNull();
    await user.click(screen.getByRole("button", { name: "Part" }));
    expect(order()).toEqual(["a", "b", "c"]);
  });

  it("shows at most what it is told, chooses by click and by focus, and has words where it is empty", async () => {
    const onChoose = vi.fn();
    table({ most: 2, onChoose, chosen: ({ id }) => id === "a" });
    expect(order()).toEqual(["b", "a"]);
    screen.getByText("b").focus();
    expect(onChoose).toHaveBeenCalledWith(rows[0]);
    expect(screen.getByText("a").closest("tr")?.getAttribute("aria-selected")).toBe("true");
    cleanup();
    table({ rows: [], empty: <p>Nothing yet</p> });
    expect(screen.getByText("Nothing yet")).toBeTruthy();
    expect(screen.queryByRole("table")).toBeNull();
  });
});
