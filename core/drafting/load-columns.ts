import type { Column } from "../exchange/columns";

/** Columns of a list of loads. */
export type LoadColumn = "name" | "volts" | "amps" | "watts" | "count" | "stall" | "start" | "idle" | "kind" | "gauge" | "length" | "note";

/** The columns a list of loads may have; without headings the first ones count, in this order. */
export const LOAD_COLUMNS: readonly Column<LoadColumn>[] = [
  { key: "name", label: "Name", words: /name|what|part|thing|load|device|motor\b|item|description/, needed: true, place: 0 },
  { key: "volts", label: "Volts", words: /volt|^u\b|\bv\b|spannung/, place: 1 },
  { key: "stall", label: "Stall amps", words: /stall|locked|blocked/, place: 4 },
  { key: "start", label: "Start amps", words: /start|peak|inrush|max/ },
  { key: "idle", label: "Idle amps", words: /idle|no.?load|standby|quiescent|free/ },
  { key: "amps", label: "Running amps", words: /amp|current|^i\b|^m?a\b|\(m?a\)|run|rated|strom/, place: 2 },
  { key: "watts", label: "Watts", words: /watt|power|^p\b|^w\b|\(w\)|leistung/ },
  { key: "count", label: "How many", words: /count|qty|quantity|pieces|pcs|how many|number|anzahl|^n\b|^#/, place: 3 },
  { key: "kind", label: "Kind", words: /kind|type|sort|art/ },
  { key: "gauge", label: "Wire", words: /wire|gauge|awg|mm²|mm2|size/ },
  { key: "length", label: "Length", words: /length|run of|metres|meters|distance|länge/ },
  { key: "note", label: "Note", words: /note|remark|comment/ },
];
