import { mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { entriesOf } from "@/core/machine/shelf";
import { must, simple } from "@/tests/support/small";
import { backupFiles, backupPath } from "./backup-files";
import { type Db, openDatabase } from "./database";
import { historyOf, machineAt, nameVersion } from "./history";
import { arrived, LEDGER_MOST, outgoing, takePiece } from "./ledger-transfer";
import { archiveMachine, createMachine, listMachines, removeMachine, saveMachine } from "./machines";
import { keepReadings } from "./readings";
import { listShelf, putAllOnShelf } from "./shelf";
import { thin } from "./thinning";

let folder: string;
let db: Db;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "node-ledger-keeping-"));
  db = openDatabase(join(folder, "ledger.db"));
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true });
});

describe("the list", () => {
  it("tells when a machine was last read, and which are put aside; neither changes the machine", () => {
    const { id } = createMachine(db, simple(), "Created");
    const reading = {
      queueId: "reading-0001",
      step: null,
      stage: null,
      place: "pack",
      quantity: "volts" as const,
      value: 12.6,
      instrument: "hand" as const,
      uncertainty: null,
      takenAt: "2026-11-20T10:00:00.000Z",
      note: "",
      way: "typed" as const,
      expected: null,
      basis: null,
      struck: false,
    };
    const line = () => listMachines(db).find((machine) => machine.id === id);
    expect(line()).toMatchObject({ archivedAt: null, readAt: null, revision: 1 });
    keepReadings(db, id, {
      readings: [reading, { ...reading, queueId: "reading-0002", takenAt: "2026-11-25T10:00:00.000Z", struck: true }],
      waivers: [],
    });
    // What was struck out as a mistake was not read.
    expect(line()?.readAt).toBe(reading.takenAt);
    expect(archiveMachine(db, id, true)).toBe(true);
    expect(line()).toMatchObject({ archivedAt: expect.any(String), revision: 1 });
    expect(archiveMachine(db, id, true)).toBe(false);
    expect(archiveMachine(db, id, false)).toBe(true);
    expect(line()?.archivedAt).toBeNull();
    removeMachine(db, id);
    expect(archiveMachine(db, id, true)).toBe(false);
  });
});

describe("named versions", () => {
  it("are found by their name and stay when the history is thinned", async () => {
    const { id } = createMachine(db, simple(), "Created");
    for (let revision = 1; revision < 6; revision++)
      saveMachine(db, id, revision, must(simple(), { type: "rename", name: `At ${revision + 1}` }), `Edit ${revision}`);
    expect(nameVersion(db, id, 3, "first power-up")).toBe(true);
    expect(nameVersion(db, id, 99, "nowhere")).toBe(false);
    db.prepare("UPDATE revision SET created_at = '2026-01-01T10:00:00.000Z'").run();
    await thin(db, new Date("2026-11-28T10:00:00Z"));
    const kept = historyOf(db, id);
    expect(kept.find(({ revision }) => revision === 3)?.name).toBe("first power-up");
    expect(kept.map(({ revision }) => revision)).not.toContain(4);
    expect(machineAt(db, id, 3)?.document.name).toBe("At 3");
    expect(nameVersion(db, id, 3, "powered up")).toBe(true);
    expect(nameVersion(db, id, 3, null)).toBe(true);
    expect(historyOf(db, id).every(({ name }) => name === null)).toBe(true);
    await thin(db, new Date("2026-11-28T10:00:00Z"));
    expect(historyOf(db, id).map(({ revision }) => revision)).not.toContain(3);
  });
});

describe("the ledger as one file", () => {
  const bytesOf = async (from: Db) => Buffer.from(await new Response((await outgoing(from)).stream).arrayBuffer());
  const UPLOAD = "00000000-0000-4000-8000-000000000001";

  it("goes out and comes in elsewhere with machines and shelf, in pieces of any size, each of which may come twice", async () => {
    createMachine(db, simple(), "Created");
    putAllOnShelf(db, entriesOf({ gauges: ["12 AWG"] }));
    const file = await bytesOf(db);
    const elsewhere = join(folder, "other.db");
    openDatabase(elsewhere).close();
    let n = 0;
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 90_000 }), { minLength: 1, maxLength: 8 }), fc.boolean(), (sizes, twice) => {
        const upload = `00000000-0000-4000-8000-${String(n++).padStart(12, "0")}`;
        let at = 0;
        for (let i = 0; at < file.length; i++) {
          const piece = file.subarray(at, at + (sizes[i % sizes.length] as number));
          expect(takePiece(elsewhere, upload, at, piece)).toEqual({ bytes: at + piece.length });
          if (twice) takePiece(elsewhere, upload, at, piece);
          at += piece.length;
        }
        const came = arrived(elsewhere, upload, file.length);
        expect(came).toMatchObject({ machines: [simple().name], shelf: 1 });
        const kept = "backup" in came ? backupPath(elsewhere, came.backup) : null;
        expect(kept && readFileSync(kept).equals(file)).toBe(true);
      }),
      { numRuns: 6 },
    );
    const newest = backupPath(elsewhere, backupFiles(elsewhere)[0]?.name ?? "") ?? "";
    const moved = openDatabase(newest);
    expect(listShelf(moved).map(({ thing }) => thing)).toEqual(listShelf(db).map(({ thing }) => thing));
    expect(listMachines(moved).map(({ name }) => name)).toEqual([simple().name]);
    moved.close();
  });

  it("is refused in words where it is something else, cut off, or a piece is missing; nothing is left behind", async () => {
    const file = await bytesOf(db);
    const path = db.name;
    const before = backupFiles(path).length;
    const bring = (bytes: Uint8Array, stated = bytes.length) => {
      takePiece(path, UPLOAD, 0, bytes);
      const came = arrived(path, UPLOAD, stated);
      return "detail" in came ? came.detail : "taken";
    };
    expect(bring(Buffer.from("notes"))).toMatch(/no ledger/);
    expect(bring(file.subarray(0, file.length / 2))).toMatch(/damaged or unfinished/);
    expect(bring(file, file.length + 1)).toMatch(/did not arrive whole/);
    expect(takePiece(path, UPLOAD, 10 ** 6, file)).toMatchObject({ detail: expect.stringContaining("missing") });
    expect(takePiece(path, "../escape", 0, file)).toHaveProperty("detail");
    expect(takePiece(path, UPLOAD, LEDGER_MOST, file)).toHaveProperty("detail");
    const newer = join(folder, "newer.db");
    writeFileSync(newer, file);
    const other = openDatabase(newer);
    other.pragma("user_version = 9000");
    other.pragma("wal_checkpoint(TRUNCATE)");
    other.pragma("journal_mode = DELETE");
    other.close();
    expect(bring(readFileSync(newer))).toMatch(/newer Node Ledger/);
    truncateSync(newer, 0);
    expect(backupFiles(path)).toHaveLength(before);
  });
});
