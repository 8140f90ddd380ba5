// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { type Told, useQuestion } from "./useQuestion";

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

/** A worker that answers when it is told to. */
function worker() {
  const open: { told: Told; done: (value: string) => void; fail: () => void }[] = [];
  const ask = vi.fn(
    (told: Told) =>
      new Promise<string>((done, reject) => {
        open.push({ told, done, fail: () => reject(new Error("a fault")) });
      }),
  );
  return { ask, open, last: () => open.at(-1) as (typeof open)[number] };
}

interface Props {
  key: string;
  version: object | null;
}

function hook(over: { pauseMs?: number; onDemand?: boolean } = {}) {
  const made = worker();
  const first = { of: 1 };
  const view = renderHook(({ key, version }: Props) => useQuestion({ key, version, ask: made.ask, ...over }), {
    initialProps: { key: "a", version: first as object | null },
  });
  const settle = (what: () => void) => act(async () => what());
  return { ...made, ...view, first, settle };
}

describe("a question that is answered elsewhere", () => {
  it("shows its answer, keeps it while a newer one is worked out, and tells that it is stale", async () => {
    const { result, rerender, last, first, settle } = hook();
    expect(result.current).toMatchObject({ value: null, stale: true, asking: true, failed: false });
    await settle(() => last().done("one"));
    expect(result.current).toMatchObject({ value: "one", stale: false, asking: false, of: first });
    rerender({ key: "a", version: { of: 2 } });
    expect(result.current).toMatchObject({ value: "one", stale: true, asking: true });
    await settle(() => last().done("two"));
    expect(result.current).toMatchObject({ value: "two", stale: false });
  });

  it("drops the answer to what is not asked any more, and shows none to another question", async () => {
    const { result, rerender, open, settle } = hook();
    rerender({ key: "b", version: { of: 2 } });
    await settle(() => open[0]?.done("late"));
    expect(result.current.value).toBeNull();
    await settle(() => open[1]?.done("b"));
    expect(result.current.value).toBe("b");
    rerender({ key: "c", version: { of: 2 } });
    expect(result.current.value).toBeNull();
  });

  it("tells when it broke off, and is asked again by hand or with the next change", async () => {
    const { result, rerender, last, ask, settle } = hook();
    await settle(() => last().fail());
    expect(result.current).toMatchObject({ value: null, asking: false, failed: true });
    await settle(() => result.current.start());
    expect(result.current).toMatchObject({ asking: true, failed: false });
    await settle(() => last().fail());
    rerender({ key: "a", version: { of: 2 } });
    await settle(() => last().done("after all"));
    expect(result.current).toMatchObject({ value: "after all", failed: false });
    expect(ask).toHaveBeenCalledTimes(3);
  });

  it("tells how far it is, and whoever works at it that nobody waits any more once it is stopped", async () => {
    const { result, last, settle } = hook();
    const { told, done } = last();
    await settle(async () => expect(await told(3, 10)).toBe(true));
    expect(result.current.progress).toEqual({ done: 3, of: 10 });
    await settle(() => result.current.stop());
    expect(result.current).toMatchObject({ asking: false, progress: null });
    await settle(async () => expect(await told(4, 10)).toBe(false));
    await settle(() => done("too late"));
    expect(result.current.value).toBeNull();
  });

  it("on demand is only asked when started, and goes on through a change of the plan", async () => {
    const { result, rerender, ask, last, settle } = hook({ onDemand: true });
    expect(ask).not.toHaveBeenCalled();
    await settle(() => result.current.start());
    rerender({ key: "a", version: { of: 2 } });
    await settle(() => last().done("of the plan before"));
    expect(result.current).toMatchObject({ value: "of the plan before", stale: true, asking: false });
    expect(ask).toHaveBeenCalledTimes(1);
  });

  it("waits a pause after a change, not before the first answer, and is not asked of nothing", async () => {
    vi.useFakeTimers();
    const { result, rerender, ask, last, settle } = hook({ pauseMs: 200 });
    expect(ask).toHaveBeenCalledTimes(1);
    await settle(() => last().done("one"));
    rerender({ key: "a", version: { of: 2 } });
    rerender({ key: "a", version: { of: 3 } });
    await settle(() => vi.advanceTimersByTime(199));
    expect(ask).toHaveBeenCalledTimes(1);
    await settle(() => vi.advanceTimersByTime(1));
    expect(ask).toHaveBeenCalledTimes(2);
    rerender({ key: "a", version: null });
    await settle(() => last().done("nobody asks"));
    expect(result.current).toMatchObject({ value: "one", asking: false });
  });
});
