import { plain } from "../machine/plain-text";

/** A text inside an XML document, between tags or in an attribute. What XML cannot hold is left out. */
export function xmlText(text: string): string {
  return plain(text).replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;").replace(/"/g, "&quot;").replace(/'/g, "&#39;");
}

/**
 * A text on one line of a Markdown file, read as it is written: no tag, link, emphasis, heading, list or cell comes of it
 * (CommonMark 0.31 and the tables and bare links that many readers add).
 */
export function markdownText(text: string): string {
  return plain(text)
    .replace(/[\\`*_[\]|~@!]/g, "\\$&")
    .replace(/&/g, "&amp;")
    .replace(/</g, "&lt;")
    .replace(/>/g, "&gt;")
    .replace(/:\/\//g, ":\\/\\/")
    .replace(/www\./gi, (found) => `${found.slice(0, -1)}\\.`)
    .replace(/^(\s*)([#+=-])/, "$1\\$2")
    .replace(/^(\s*\d+)([.)])/, "$1\\$2");
}
