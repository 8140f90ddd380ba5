import { createHash, randomBytes, randomInt, randomUUID } from "node:crypto";
import type { Db } from "./database";

/** A phone that may read one machine and add readings to it. */
export interface Phone {
  readonly id: string;
  readonly name: string;
  readonly pairedAt: string;
  readonly seenAt: string;
}

/** Letters and digits that nobody takes for another. */
const ALPHABET = "23456789ABCDEFGHJKMNPQRSTVWXYZ";
const CODE_LENGTH = 8;
/** How long a code can be used, ms. */
export const CODE_MS = 10 * 60_000;
/** Between two notes of when a phone was seen last, ms. */
const SEEN_MS = 60_000;

const sumOf = (secret: string) => createHash("sha256").update(secret).digest("hex");

/** As it is typed: spaces and hyphens do not count, small letters are large ones. */
function plainCode(code: string): string {
  return code.replace(/[\s-]/g, "").toUpperCase();
}

/** A code that pairs one phone with a machine, once, within ten minutes. */
export function newCode(db: Db, machineId: string, now = Date.now()): { code: string; expiresAt: string } {
  const letters = Array.from({ length: CODE_LENGTH }, () => ALPHABET[randomInt(ALPHABET.length)]).join("");
  const expiresAt = new Date(now + CODE_MS).toISOString();
  db.transaction(() => {
    db.prepare("DELETE FROM pairing_code WHERE expires_at <= ?").run(new Date(now).toISOString());
    db.prepare("INSERT INTO pairing_code (code_hash, machine_id, expires_at) VALUES (?, ?, ?)").run(sumOf(letters), machineId, expiresAt);
  })();
  return { code: `${letters.slice(0, 4)}-${letters.slice(4)}`, expiresAt };
}

/** Pairs a phone by a code, which is used up by it. Null: no such code, used before, or run out. */
export function pair(db: Db, code: string, name: string, now = Date.now()): { token: string; machineId: string } | null {
  const at = new Date(now).toISOString();
  return db.transaction(() => {
    const used = db
      .prepare<[string, string], { machine_id: string }>(
        "DELETE FROM pairing_code WHERE code_hash = ? AND expires_at > ? RETURNING machine_id",
      )
      .get(sumOf(plainCode(code)), at);
    if (!used) return null;
    const token = randomBytes(32).toString("base64url");
    db.prepare("INSERT INTO phone (id, machine_id, token_hash, name, paired_at, seen_at) VALUES (?, ?, ?, ?, ?, ?)").run(
      randomUUID(),
      used.machine_id,
      sumOf(token),
      name,
      at,
      at,
    );
    return { token, machineId: used.machine_id };
  })();
}

/** The machine a phone is paired with; null where its pairing was ended or never was. */
export function machineOfPhone(db: Db, token: string, now = Date.now()): string | null {
  const row = db
    .prepare<[string], { id: string; machine_id: string; seen_at: string }>(
      "SELECT id, machine_id, seen_at FROM phone WHERE token_hash = ? AND ended_at IS NULL",
    )
    .get(sumOf(token));
  if (!row) return null;
  if (now - Date.parse(row.seen_at) > SEEN_MS)
    db.prepare("UPDATE phone SET seen_at = ? WHERE id = ?").run(new Date(now).toISOString(), row.id);
  return row.machine_id;
}

/** Phones that are paired with a machine, the newest first. */
export function phonesOf(db: Db, machineId: string): Phone[] {
  return db
    .prepare<[string], Phone>(
      "SELECT id, name, paired_at AS pairedAt, seen_at AS seenAt FROM phone WHERE machine_id = ? AND ended_at IS NULL ORDER BY paired_at DESC",
    )
    .all(machineId);
}

/** Ends a pairing: from now on the phone is answered like any other stranger. */
export function endPhone(db: Db, machineId: string, phoneId: string): boolean {
  return (
    db
      .prepare("UPDATE phone SET ended_at = ? WHERE id = ? AND machine_id = ? AND ended_at IS NULL")
      .run(new Date().toISOString(), phoneId, machineId).changes > 0
  );
}
