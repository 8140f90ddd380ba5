/**
 * The class that cuts a text off, for texts that are longer than their column has room for (in letters). Only for those:
 * the browser pays for every box it has to clip each time it paints a table.
 */
export function cut(text: string, room: number): string {
  return text.length > room ? "truncate" : "";
}
