import type { CSSProperties } from "react";
import type { Paper, PaperChunk, PaperColumns, PaperHeader, PaperLabel, PaperPicture, PaperRow } from "@/core/sheet/paper";
import { MEASURES } from "@/core/sheet/paper";
import { ON_PAPER, ShapeMark } from "./Shapes";

/** A length on paper: millimetres, at whatever scale the pages are shown. */
const mm = (value: number) => `calc(var(--mm) * ${Number(value.toFixed(3))})`;

/** The pages of a sheet, one under the other: the same on the screen, in print and in a file. */
export function PaperPages({ paper }: { paper: Paper }) {
  const { size, header, pages } = paper;
  const measures = {
    "--paper-width": size.width,
    "--paper-height": size.height,
    "--paper-margin": MEASURES.margin,
    "--paper-header": MEASURES.header,
    "--paper-type": MEASURES.type,
    "--paper-line": MEASURES.line,
    "--paper-gap": MEASURES.gap,
  } as CSSProperties;
  return (
    <div className="paper" style={measures}>
      {pages.map((page) => (
        <section key={page.number} className="paper-page" aria-label={`Sheet ${page.number} of ${pages.length}`}>
          <Head header={header} number={page.number} of={pages.length} />
          {page.strips.map((strip, i) =>
            strip.kind === "picture" ? <PictureStrip key={strip.title} picture={strip} /> : <ColumnStrip key={i} columns={strip} />,
          )}
          {page.labels.length > 0 && <Labels labels={page.labels} />}
        </section>
      ))}
    </div>
  );
}

function Head({ header, number, of }: { header: PaperHeader; number: number; of: number }) {
  return (
    <header className="paper-head">
      <span className="paper-name">{header.name}</span>
      <span className="paper-numbers">{header.numbers}</span>
      <span className="paper-stand">
        sheet {number} of {of} · {header.dated} · {header.standing}
      </span>
    </header>
  );
}

function PictureStrip({ picture: { title, note, width, height, heightMm, shapes } }: { picture: PaperPicture }) {
  return (
    <figure className="paper-figure">
      <figcaption>
        <b>{title}</b> {note}
      </figcaption>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        style={{ height: mm(heightMm) }}
        role="img"
        aria-label={title}
        preserveAspectRatio="xMinYMin meet"
      >
        {shapes.map((shape, i) => (
          <ShapeMark key={i} shape={shape} paint={ON_PAPER} />
        ))}
      </svg>
    </figure>
  );
}

function ColumnStrip({ columns: { columns, of } }: { columns: PaperColumns }) {
  return (
    <div className="paper-columns" style={{ gridTemplateColumns: `repeat(${of}, minmax(0, 1fr))` }}>
      {columns.map((chunks, i) => (
        <div key={i}>
          {chunks.map((chunk) => (
            <Chunk key={chunk.title} chunk={chunk} />
          ))}
        </div>
      ))}
    </div>
  );
}

function Chunk({ chunk: { title, continued, note, card, head, widths, rows } }: { chunk: PaperChunk }) {
  const named = head.some(({ text }) => text !== "");
  const body = rows.map((row, i) => <Row key={i} row={row} columns={widths.length} />);
  return (
    <div className={card ? "paper-chunk paper-card" : "paper-chunk"}>
      <h2>
        {title}
        {continued && <span className="paper-on">, further</span>}
      </h2>
      {note.map((line) => (
        <p key={line} className="paper-line">
          {line}
        </p>
      ))}
      {widths.length === 0 ? (
        body
      ) : (
        <table>
          <caption className="sr-only">{title}</caption>
          <colgroup>
            {widths.map((width, i) => (
              <col key={i} style={{ width: mm(width) }} />
            ))}
          </colgroup>
          {named && (
            <thead>
              <tr>
                {head.map(({ text, right }, i) => (
                  <th key={i} scope="col" className={right ? "paper-right" : undefined}>
                    {text || <span className="sr-only">Tag</span>}
                  </th>
                ))}
              </tr>
            </thead>
          )}
          <tbody>{body}</tbody>
        </table>
      )}
    </div>
  );
}

function Lines({ lines }: { lines: readonly string[] }) {
  return lines.map((line, i) => (
    <span key={i} className="paper-line" dir="auto">
      {line}
    </span>
  ));
}

function Row({ row, columns }: { row: PaperRow; columns: number }) {
  switch (row.kind) {
    case "cells":
      return (
        <tr>
          {row.cells.map(({ lines, face, right }, i) => (
            <td
              key={i}
              className={[face === "regular" ? "" : `paper-${face}`, right ? "paper-right" : ""].filter(Boolean).join(" ") || undefined}
            >
              <Lines lines={lines} />
            </td>
          ))}
        </tr>
      );
    case "group":
      return columns === 0 ? (
        <h3>
          <Lines lines={row.lines} />
        </h3>
      ) : (
        <tr>
          <th colSpan={columns} scope="colgroup" className="paper-group">
            <Lines lines={row.lines} />
          </th>
        </tr>
      );
    case "text": {
      const said = (
        <>
          {row.lines.map((line, i) => (
            <span key={i} className="paper-line" dir="auto">
              {i === 0 && row.lead && <b>{row.lead} </b>}
              {line}
            </span>
          ))}
        </>
      );
      return columns === 0 ? (
        <p className="paper-text">{said}</p>
      ) : (
        <tr>
          <td colSpan={columns}>{said}</td>
        </tr>
      );
    }
    case "steps":
      return (
        <p className="paper-steps">
          {row.steps.map(({ kind, text, width, read, off }, i) => (
            <span key={i} style={{ width: mm(width) }} className={kind === "lead" ? "paper-lead" : undefined}>
              {text}
              {kind === "step" &&
                (read === null ? (
                  <span className="paper-blank" />
                ) : (
                  <b>
                    {" "}
                    {off ? "!" : "✓"} {read}
                  </b>
                ))}
            </span>
          ))}
        </p>
      );
  }
}

function Labels({ labels }: { labels: readonly PaperLabel[] }) {
  const { width, height, gap } = MEASURES.label;
  return (
    <div
      className="paper-labels"
      style={{ gridTemplateColumns: `repeat(auto-fill, ${mm(width)})`, gridAutoRows: mm(height), gap: mm(gap) }}
    >
      {labels.map(({ tag, where, what }, i) => (
        <div key={i} className="paper-label">
          <span className="paper-tag">
            <b>{tag}</b> {what}
          </span>
          <Lines lines={where} />
        </div>
      ))}
    </div>
  );
}
