import Papa from "papaparse";

/** A table as text for other programs. */
export function csvOf(columns: readonly string[], rows: readonly (readonly string[])[]): string {
  return Papa.unparse({ fields: [...columns], data: rows.map((row) => [...row]) });
}

/** A table read by its headings, in small letters; comma, semicolon or tab between cells. */
export function csvRows(text: string): { headings: string[]; rows: Record<string, string>[] } {
  const read = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: "greedy",
    transformHeader: (heading) => heading.trim().toLowerCase(),
  });
  return { headings: read.meta.fields ?? [], rows: read.data };
}

/** The same without headings: cells alone. */
export function csvCells(text: string): string[][] {
  return Papa.parse<string[]>(text, { skipEmptyLines: "greedy" }).data;
}
