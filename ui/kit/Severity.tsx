import { type Mark, SEVERITY_WORDS } from "@/core/verdicts/types";

/** Severity as word and shape: Stop filled, Fix outlined, Watch dotted, Ask with a question mark, Clear a quiet dot. */
export function SeverityMark({ severity }: { severity: Mark }) {
  switch (severity) {
    case "stop":
      return <span className="bg-stop px-2 py-px text-xs font-bold text-on-stop">{SEVERITY_WORDS.stop}</span>;
    case "fix":
      return <span className="border border-fix px-1.5 text-xs font-bold text-fix">{SEVERITY_WORDS.fix}</span>;
    case "watch":
      return <span className="border-b-2 border-dotted border-watch text-xs font-bold text-watch">{SEVERITY_WORDS.watch}</span>;
    case "ask":
      return <span className="text-xs font-bold text-ask">? {SEVERITY_WORDS.ask}</span>;
    case "accepted":
      return <span className="text-xs text-soft line-through decoration-from-font">{SEVERITY_WORDS.accepted}</span>;
    case "clear":
      return (
        <span className="mark-clear text-soft" title="Clear">
          <span aria-hidden>·</span>
          <span className="sr-only">{SEVERITY_WORDS.clear}</span>
        </span>
      );
  }
}
