import type { LinkReading, Talk } from "./reading";
import { LINK_WORDS, thingOf } from "./vocabulary";
import { LineWords } from "./words-of-line";

const TALKS =
  /^(.+?)\s+(?:talks?(?: to)?|talking to|speaks? (?:to|with)|(?:is |are )?(?:connected|linked|wired|hooked up) (?:to|with)|connects? (?:to|with)|links? to|sends?(?: [a-z]+)? to|signals?(?: to)?|controls|commands|tells|reports to|reads|switches|(?:-+|=+)>|→)\s+(.+?)$/i;
const BY = /\s*(?:,|:|\(|\bby\b|\bvia\b|\bover\b|\bthrough\b|\busing\b|\bwith\b|\bon\b)\s*([^,:()]+)\)?$/i;
const TO = /^(.+?)\s+(?:to|and)\s+(.+?)$/i;

const linkKind = (piece: string) => LINK_WORDS.find(([spelling]) => spelling.test(piece))?.[1] ?? null;

/** Whom a link goes to, without how it talks: "controller by serial", "drivers pwm". */
function withoutKind(to: string): string {
  const by = BY.exec(to);
  if (by && linkKind(by[1] ?? "") !== null) return to.slice(0, by.index);
  if (linkKind(to) === null) return to;
  return to.replace(
    /\s+\(?(?:serial|uart|usb|pwm|i2c|can(?:[ -]?bus)?|rs-?485|analog(?:ue)?|audio|step\/?dir|logic|ttl|pulse|opto)\)?$/i,
    "",
  );
}

/** Whom a thing talks to, said in its own line; null where nothing of it is said. */
export function talkOf(words: LineWords): Talk | null {
  const said = words.take(
    /[,;(]? ?\b(?:and |which |that |it )?(?:talks?|talking|speaks?|speaking|listens?|reports?|connect(?:s|ed)|linked) (?:to|with) (?:the |a |my )?([a-z][^,;()]*(?:, ?(?:by |via |over )?(?:serial|uart|i2c|can(?: ?bus)?|usb|pwm|rs-?485|analog(?:ue)?|audio)\b)?)/,
  );
  const to = withoutKind(said?.found[1] ?? "").trim();
  return to === "" ? null : { to, kind: linkKind(said?.found[1] ?? "") };
}

/** Who talks to whom; null where the line is about something else. */
export function readLink(text: string): LinkReading | null {
  const words = new LineWords(text);
  const [figure] = words.tokens.filter(
    (token) => token.is === "figure" && ["volts", "amps", "watts", "ampHours", "metres"].includes(token.kind),
  );
  // A thing with its figures that also talks to another is the thing, first of all.
  const verb = /(?:talks?|speaks?) to/i.exec(text);
  if (figure && (!verb || figure.start < verb.index)) return null;
  const plain = text.replace(/^\s*(?:link|signal|data)s?\s*:\s*/i, "").trim();
  const named = plain !== text.trim();
  const kind = linkKind(plain);
  const told = TALKS.exec(plain) ?? (named || kind !== null ? TO.exec(plain) : null);
  if (!told) return null;
  const clean = (piece: string) =>
    piece
      .replace(/^(?:the|a|an|my|our)\s+/i, "")
      .replace(/^(?:serial|uart|usb|pwm|i2c|can|audio)\s+(?:from\s+)?/i, "")
      .replace(/[.,;:]+$/, "")
      .trim();
  const to = withoutKind(told[2] ?? "");
  const from = clean(told[1] ?? "");
  const where = clean(to);
  if (from === "" || where === "" || from.split(" ").length > 5 || where.split(" ").length > 6) return null;
  // Both ends are things, not a figure or a sentence.
  if (!named && !/talk|speak|connect|link|wired|hooked|->|=>|→/i.test(plain) && !isThing(from)) return null;
  return { is: "link", from, to: where, kind };
}

function isThing(text: string): boolean {
  const last = text.split(/\s+/).at(-1) ?? "";
  return thingOf(text) !== null || thingOf(last) !== null;
}
