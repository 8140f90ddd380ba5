import { fileStem } from "@/core/exchange/json";

const TYPES = { json: "application/json", md: "text/markdown", cir: "text/plain", svg: "image/svg+xml", csv: "text/csv" } as const;

/** Hands a text over as a file. */
export function download(text: string, name: string, ending: keyof typeof TYPES): void {
  const url = URL.createObjectURL(new Blob([text], { type: TYPES[ending] }));
  const link = document.createElement("a");
  link.href = url;
  link.download = `${fileStem(name)}.${ending}`;
  link.click();
  URL.revokeObjectURL(url);
}
