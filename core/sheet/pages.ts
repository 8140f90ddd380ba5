import type { Picture } from "../returns/pen";
import { wrapText } from "./measure";
import {
  MEASURES,
  PAPERS,
  type Paper,
  type PaperColumns,
  type PaperLabel,
  type PaperOptions,
  type PaperPage,
  type PaperPicture,
} from "./paper";
import { type Flow, fillColumns, setSection, spread } from "./pour";
import { flowsOf } from "./sections";
import type { Sheet } from "./sheet";

const M = MEASURES;

/** Pages while they are being filled. */
class Pages {
  readonly pages: (PaperPicture | PaperColumns)[][] = [];
  private used = 0;
  private readonly waiting: PaperPicture[] = [];

  constructor(
    readonly width: number,
    private readonly full: number,
  ) {
    this.turn();
  }

  private turn(): void {
    this.pages.push([]);
    this.used = 0;
    const next = this.waiting.shift();
    if (next) this.put(next);
  }

  private get left(): number {
    return this.full - this.used;
  }

  private put(picture: PaperPicture): void {
    this.pages.at(-1)?.push(picture);
    this.used += heightOf(picture);
  }

  /** A picture at the head of the first page, or of the next: lists fill the page before it. */
  picture(picture: PaperPicture): void {
    if (this.used === 0 && this.waiting.length === 0) this.put(picture);
    else this.waiting.push(picture);
  }

  /** Pours a flow into columns: as tall as the page where it goes on, no taller than it must be where it ends. */
  flow({ sections, columns }: Flow): void {
    const width = (this.width - (columns - 1) * M.gap) / columns;
    let rest = sections.map((section) => setSection(section, width)).filter(({ rows }) => rows.length > 0);
    while (rest.length > 0) {
      const room = { count: columns, height: this.left, most: this.full, fresh: this.used === 0 };
      const { columns: chunks, rest: next, height } = spread(rest, room) ?? fillColumns(rest, room);
      if (chunks.some((column) => column.length > 0)) {
        this.pages.at(-1)?.push({ kind: "columns", columns: chunks, of: columns });
        this.used += height + M.stripGap;
      }
      rest = next;
      if (rest.length > 0) this.turn();
    }
  }

  /** Pictures no page was turned for stand on pages of their own. */
  done(): (PaperPicture | PaperColumns)[][] {
    while (this.waiting.length > 0) this.turn();
    return this.pages.filter((strips) => strips.length > 0);
  }
}

function heightOf({ heightMm }: PaperPicture): number {
  return heightMm + M.pictureTitle + M.stripGap;
}

function pictureFor(
  title: string,
  note: string,
  { width, height, shapes }: Pick<Picture, "width" | "height" | "shapes">,
  across: number,
  most: number,
): PaperPicture {
  const heightMm = Math.min(most - M.pictureTitle - M.stripGap, (height * across) / Math.max(width, 1));
  return { kind: "picture", title, note, width, height, shapes, heightMm };
}

/** Lays a sheet out on pages of paper. */
export function paperOf(sheet: Sheet, options: PaperOptions): Paper {
  const size = PAPERS[options.paper];
  const width = size.width - 2 * M.margin;
  const full = size.height - 2 * M.margin - M.header - M.spare;
  const made = new Pages(width, full);
  made.picture(
    pictureFor(
      "Distribution",
      "from the sources to what moves; the amps are the most in any mode, thick lines are thick wires, double lines leads of a motor",
      sheet.drawing,
      width,
      full,
    ),
  );
  if (sheet.returns && options.lists)
    made.picture(
      pictureFor(
        "Ways out and back",
        `drawn for ${sheet.returns.mode}: out over the top, home underneath, width is amps`,
        sheet.returns.picture,
        width,
        full,
      ),
    );
  const { lists, bringUp, verdicts } = flowsOf(sheet, options);
  made.flow(lists);
  made.flow(bringUp);
  made.flow(verdicts);
  const pages = made.done().map((strips, i): PaperPage => ({ number: i + 1, strips, labels: [] }));
  const labels = options.labels ? labelPages(sheet, size, pages.length) : [];
  return {
    size,
    header: {
      name: sheet.name,
      numbers: sheet.numbers
        .slice(0, 3)
        .map(({ label, value }) => `${label} ${value}`)
        .join(" · "),
      standing: sheet.standing,
      dated: [options.revision === undefined ? "" : `revision ${options.revision}`, options.date].filter(Boolean).join(", "),
    },
    pages: [...pages, ...labels],
    labelPages: labels.length,
  };
}

/** Lines of a route on a label; what is longer stands in the cut list. */
const LABEL_LINES = 2;

function labelPages(sheet: Sheet, size: { width: number; height: number }, before: number): PaperPage[] {
  const { width, height, gap, type } = M.label;
  const across = Math.floor((size.width - 2 * M.margin + gap) / (width + gap));
  const down = Math.floor((size.height - 2 * M.margin - M.header + gap) / (height + gap));
  const labels = sheet.labels.map(({ tag, where, what }): PaperLabel => {
    const lines = wrapText(where, width - 4, type);
    const cut = lines.length > LABEL_LINES;
    return { tag, where: cut ? [lines[0] ?? "", `${(lines[1] ?? "").slice(0, -1)}…`] : lines, what };
  });
  const pages: PaperPage[] = [];
  for (let i = 0; i < labels.length; i += across * down)
    pages.push({ number: before + pages.length + 1, strips: [], labels: labels.slice(i, i + across * down) });
  return pages;
}
