/** Largest body accepted, bytes. A machine of 2000 parts is about 2 MB. */
export const MAX_BODY_BYTES = 8 * 1024 * 1024;
/** Deepest nesting of a request: an edit of a helper's inputs in a list of edits is a dozen deep. */
export const MAX_DEPTH = 32;
/** Most objects and lists of a request, and most values. A machine of 2000 parts has some 30 000 and 150 000. */
export const MAX_CONTAINERS = 400_000;
export const MAX_VALUES = 2_000_000;

const [QUOTE, BACKSLASH, COMMA] = [0x22, 0x5c, 0x2c];
const OPENS = new Set([0x5b, 0x7b]);
const CLOSES = new Set([0x5d, 0x7d]);

/** Whether a text is shallow and small enough to be parsed as JSON. It is not checked for being JSON. */
export function scanJson(bytes: Uint8Array): boolean {
  let depth = 0;
  let containers = 0;
  let values = 0;
  let inText = false;
  for (let at = 0; at < bytes.length; at++) {
    const byte = bytes[at] as number;
    if (inText) {
      if (byte === BACKSLASH) at++;
      else if (byte === QUOTE) inText = false;
      continue;
    }
    if (byte === QUOTE) inText = true;
    else if (byte === COMMA) values++;
    else if (OPENS.has(byte)) {
      depth++;
      containers++;
    } else if (CLOSES.has(byte)) depth--;
    if (depth > MAX_DEPTH || containers > MAX_CONTAINERS || values > MAX_VALUES) return false;
  }
  return true;
}
