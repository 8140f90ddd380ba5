// @vitest-environment jsdom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { notFound } from "next/navigation";
import { afterEach, describe, expect, it, vi } from "vitest";
import { LengthField } from "./LengthField";
import { PaneBoundary } from "./PaneBoundary";
import { QuantityInput } from "./QuantityInput";
import { always, named, SelectField } from "./Select";
import { TextInput } from "./TextInput";

afterEach(cleanup);

const fine = { ok: true } as const;

describe("the draft of a field", () => {
  it("is saved when it is left, in SI, and not when it says the same", async () => {
    const onCommit = vi.fn((_value: number | undefined) => fine);
    render(<QuantityInput label="Rated" dimension="current" value={2} onCommit={onCommit} />);
    const user = userEvent.setup();
    const field = screen.getByLabelText("Rated");
    await user.click(field);
    await user.tab();
    expect(onCommit).not.toHaveBeenCalled();
    await user.clear(field);
    await user.type(field, "800 mA");
    await user.tab();
    expect(onCommit).toHaveBeenCalledExactlyOnceWith(0.8);
  });

  it("stays with a message while it does not fit; Escape gives the saved one back", async () => {
    const onCommit = vi.fn(() => fine);
    render(<QuantityInput label="Rated" dimension="current" value={2} max={50} onCommit={onCommit} />);
    const user = userEvent.setup();
    const field = screen.getByLabelText("Rated");
    await user.clear(field);
    await user.type(field, "900 A{Enter}");
    expect(field).toHaveProperty("value", "900 A");
    expect(screen.getByRole("alert").textContent).not.toBe("");
    expect(field.getAttribute("aria-describedby")).toBe(screen.getByRole("alert").id);
    await user.keyboard("{Escape}");
    expect(field).toHaveProperty("value", "2 A");
    expect(screen.queryByRole("alert")).toBeNull();
    expect(onCommit).not.toHaveBeenCalled();
  });

  it("may be emptied only where the figure may be unknown", async () => {
    const onCommit = vi.fn((_value: number | undefined) => fine);
    render(<QuantityInput optional label="Peak" dimension="current" value={2} onCommit={onCommit} />);
    const user = userEvent.setup();
    await user.clear(screen.getByLabelText("Peak"));
    await user.tab();
    expect(onCommit).toHaveBeenCalledExactlyOnceWith(undefined);
    render(<TextInput label="Name" value="Winch" onCommit={() => fine} empty="It needs a name." />);
    await user.clear(screen.getByLabelText("Name"));
    await user.tab();
    expect(screen.getByText("It needs a name.")).toBeTruthy();
  });
});

describe("a length", () => {
  it("that is typed has been measured: the doubt of the one before goes with it", async () => {
    const onCommit = vi.fn(() => fine);
    const wire = { lengthM: { value: 1, provenance: "guess" as const, tolerance: 0.3 } };
    render(<LengthField label="Length" wire={wire} onCommit={onCommit} />);
    const user = userEvent.setup();
    await user.clear(screen.getByLabelText("Length"));
    await user.type(screen.getByLabelText("Length"), "3 ft{Enter}");
    expect(onCommit).toHaveBeenCalledExactlyOnceWith({ value: expect.closeTo(0.9144, 6), provenance: "measured" });
  });
});

describe("a choice", () => {
  it("hands on one of its options, or nothing where that is one of them", async () => {
    const onChange = vi.fn();
    render(
      <SelectField label="Drive" value="sine" options={named({ six: "six-step", sine: "sine" })} none="not told" onChange={onChange} />,
    );
    const user = userEvent.setup();
    await user.selectOptions(screen.getByLabelText("Drive"), "six-step");
    await user.selectOptions(screen.getByLabelText("Drive"), "not told");
    expect(onChange.mock.calls).toEqual([["six"], [undefined]]);
    const take = vi.fn();
    always(take)(undefined);
    always(take)("six");
    expect(take).toHaveBeenCalledExactlyOnceWith("six");
  });
});

function Fragile({ chart }: { chart: { sound: boolean } }) {
  if (!chart.sound) throw new Error("a fault");
  return <p>drawn</p>;
}

function Elsewhere(): never {
  notFound();
}

describe("a pane that breaks", () => {
  it("leaves its neighbours alone, and is tried again by hand or with another view", async () => {
    const silent = vi.spyOn(console, "error").mockImplementation(() => undefined);
    const chart = { sound: false };
    const page = (on: string) => (
      <>
        <PaneBoundary what="The chart" on={on}>
          <Fragile chart={chart} />
        </PaneBoundary>
        <p>neighbour</p>
      </>
    );
    const { rerender } = render(page("charts"));
    const user = userEvent.setup();
    expect(screen.getByRole("alert").textContent).toContain("The chart");
    expect(screen.getByText("neighbour")).toBeTruthy();
    chart.sound = true;
    await user.click(screen.getByRole("button", { name: "Try again" }));
    expect(screen.getByText("drawn")).toBeTruthy();
    chart.sound = false;
    rerender(page("other"));
    expect(screen.getByRole("alert")).toBeTruthy();
    chart.sound = true;
    rerender(page("charts"));
    expect(screen.getByText("drawn")).toBeTruthy();
    silent.mockRestore();
  });

  it("passes on what is the router's: there is no such page", () => {
    const silent = vi.spyOn(console, "error").mockImplementation(() => undefined);
    expect(() =>
      render(
        <PaneBoundary what="This step">
          <Elsewhere />
        </PaneBoundary>,
      ),
    ).toThrow(/404/);
    silent.mockRestore();
  });
});
