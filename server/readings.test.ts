import Database from "better-sqlite3";
import { beforeEach, describe, expect, it } from "vitest";
import type { Reading, Waiver } from "@/core/bringup/log";
import { USUAL_KIT } from "@/core/bringup/types";
import { simple } from "@/tests/support/small";
import { type Db, migrate } from "./database";
import { createMachine, removeMachine } from "./machines";
import { endPhone, machineOfPhone, newCode, pair, phonesOf } from "./phones";
import { keepReadings, logOf, logVersion, sentSchema } from "./readings";
import { Slowing } from "./slowing";

let db: Db;
let id: string;
beforeEach(() => {
  db = new Database(":memory:");
  db.pragma("foreign_keys = ON");
  migrate(db, ":memory:");
  ({ id } = createMachine(db, simple(), "Created"));
});

const reading = (n: number, over: Partial<Reading> = {}): Reading => ({
  queueId: `reading-${n}000000`,
  step: "tree:x",
  stage: "tree",
  place: "Volts at Drive",
  quantity: "volts",
  value: 24.1,
  instrument: "hand",
  uncertainty: null,
  takenAt: `2026-03-01T10:00:0${n}.000Z`,
  note: "by the window",
  way: "typed",
  expected: 24,
  basis: "abc",
  struck: false,
  ...over,
});
const waiver: Waiver = {
  queueId: "waiver-00001",
  stage: "tree",
  step: null,
  reason: "known good",
  at: "2026-03-01T10:00:00.000Z",
  ended: false,
};

describe("the log of a machine", () => {
  it("keeps each reading once, however often it is sent, with the revision it was held against", () => {
    const sent = { readings: [reading(2), reading(1, { value: null, quantity: "ohms" })], waivers: [waiver] };
    expect(keepReadings(db, id, sent)).toMatchObject({ ok: true, added: 2, version: 1 });
    expect(keepReadings(db, id, sent)).toMatchObject({ ok: true, added: 0, version: 1 });
    const { log, version } = logOf(db, id);
    expect(log.readings.map(({ queueId }) => queueId)).toEqual([reading(1).queueId, reading(2).queueId]);
    expect(log.readings[1]).toEqual(reading(2));
    expect(log.waivers).toEqual([waiver]);
    expect(version).toBe(1);
    expect(db.prepare("SELECT revision, unit FROM reading WHERE queue_id = ?").get(reading(1).queueId)).toEqual({ revision: 1, unit: "Ω" });
  });

  it("changes nothing of a reading but that it is struck out, and of a waiver but that it is ended", () => {
    keepReadings(db, id, { readings: [reading(1)], waivers: [waiver] });
    keepReadings(db, id, { readings: [reading(1, { value: 99, struck: true })], waivers: [{ ...waiver, reason: "another", ended: true }] });
    const { log } = logOf(db, id);
    expect(log.readings).toEqual([reading(1, { struck: true })]);
    expect(log.waivers).toEqual([{ ...waiver, ended: true }]);
    expect(logVersion(db, id)).toBe(2);
    // Who may only add changes not even that.
    keepReadings(db, id, { readings: [reading(1), reading(2)], waivers: [] }, true);
    expect(logOf(db, id).log.readings).toEqual([reading(1, { struck: true }), reading(2)]);
  });

  it("remembers what there is to read with", () => {
    keepReadings(db, id, { readings: [], waivers: [], kit: { ...USUAL_KIT, clamp: "none" } });
    expect(logOf(db, id).kit.clamp).toBe("none");
    keepReadings(db, id, { readings: [reading(1)], waivers: [] });
    expect(logOf(db, id).kit.clamp).toBe("none");
  });

  it("takes nothing for a machine that is gone, and nothing that is no reading", () => {
    removeMachine(db, id);
    expect(keepReadings(db, id, { readings: [reading(1)], waivers: [] })).toEqual({ ok: false, reason: "missing" });
    for (const wrong of [{ value: "24" }, { quantity: "lumens" }, { queueId: "x" }, { takenAt: "yesterday" }, { place: "" }, { extra: 1 }])
      expect(sentSchema.safeParse({ readings: [{ ...reading(1), ...wrong }], waivers: [] }).success, JSON.stringify(wrong)).toBe(false);
  });
});

describe("pairing a phone", () => {
  it("works once, within its time, whatever way the code is typed", () => {
    const { code } = newCode(db, id, 0);
    expect(pair(db, "AAAA-AAAA", "Phone", 1)).toBeNull();
    const paired = pair(db, ` ${code.toLowerCase().replace("-", " ")} `, "Phone", 1);
    expect(paired?.machineId).toBe(id);
    expect(pair(db, code, "Another", 2)).toBeNull();
    const late = newCode(db, id, 0);
    expect(pair(db, late.code, "Late", 10 * 60_000 + 1)).toBeNull();
  });

  it("lets a phone in by its token until the pairing is ended; neither code nor token stands in the ledger", () => {
    const { code } = newCode(db, id, 0);
    const token = pair(db, code, "Phone", 1)?.token ?? "";
    expect(machineOfPhone(db, token)).toBe(id);
    expect(machineOfPhone(db, `${token}x`)).toBeNull();
    const everything = JSON.stringify([db.prepare("SELECT * FROM phone").all(), db.prepare("SELECT * FROM pairing_code").all()]);
    expect(everything).not.toContain(token);
    expect(everything).not.toContain(code.replace("-", ""));
    const [phone] = phonesOf(db, id);
    expect(endPhone(db, "another", phone?.id ?? "")).toBe(false);
    expect(endPhone(db, id, phone?.id ?? "")).toBe(true);
    expect(machineOfPhone(db, token)).toBeNull();
    expect(phonesOf(db, id)).toEqual([]);
  });
});

describe("slowing", () => {
  it("doubles the wait with each wrong code of an address, and forgives a right one", () => {
    const slowing = new Slowing();
    const waits = [0, 1, 2, 3].map(() => {
      slowing.wrongCode("a", 0);
      return slowing.waitMs("a", 0);
    });
    expect(waits).toEqual([1000, 2000, 4000, 8000]);
    expect(slowing.waitMs("b", 0)).toBe(0);
    slowing.rightCode("a");
    expect(slowing.waitMs("a", 0)).toBe(0);
  });

  it("closes the door for all when codes are guessed from many addresses, and opens it again", () => {
    const slowing = new Slowing();
    for (let i = 0; i < 30; i++) slowing.wrongCode(`10.0.0.${i}`, 0);
    expect(slowing.waitMs("10.0.1.1", 60_000)).toBeGreaterThan(0);
    expect(slowing.waitMs("10.0.1.1", 10 * 60_000 + 1)).toBe(0);
  });

  it("lets an address ask in bursts, not without end", () => {
    const slowing = new Slowing();
    const asked = Array.from({ length: 200 }, () => slowing.mayAsk("a", 0)).filter(Boolean).length;
    expect(asked).toBe(80);
    expect(slowing.mayAsk("a", 1000)).toBe(true);
    expect(slowing.mayAsk("b", 0)).toBe(true);
  });

  it("a page that is opened anew several times over gets all its files", () => {
    const slowing = new Slowing();
    const opened = Array.from({ length: 10 }, () => [
      slowing.mayAsk("a", 0),
      ...Array.from({ length: 45 }, () => slowing.mayAsk("a", 0, true)),
    ]).flat();
    expect(opened).not.toContain(false);
    expect(Array.from({ length: 1000 }, () => slowing.mayAsk("a", 0, true))).toContain(false);
  });
});
