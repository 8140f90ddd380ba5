import { connect } from "node:net";

/** Longest an instrument may take to answer, ms. */
const ANSWER_MS = 5000;
const LINE_MAX = 10_000;

/** Where real instruments answer in place of the simulated bench: a port of this machine; null: none is named. */
export function bridgePort(): number | null {
  const port = Number(process.env.NODE_LEDGER_BENCH ?? "");
  return Number.isInteger(port) && port > 0 && port < 65536 ? port : null;
}

/** Says lines to a bridge on this machine: an answer a query, in order. @throws {Error} when it does not answer */
export function askBridge(port: number, lines: readonly string[]): Promise<(string | null)[]> {
  const queries = lines.filter((line) => line.includes("?")).length;
  return new Promise((resolve, reject) => {
    const socket = connect(port, "127.0.0.1");
    let text = "";
    const done = (error: Error | null) => {
      clearTimeout(timer);
      socket.destroy();
      if (error) return reject(error);
      const answers = text.split("\n").slice(0, queries);
      let next = 0;
      resolve(lines.map((line) => (line.includes("?") ? (answers[next++] ?? "").trim() : null)));
    };
    const timer = setTimeout(() => done(new Error("the instruments do not answer")), ANSWER_MS);
    socket.setEncoding("utf8");
    socket.on("error", done);
    socket.on("close", () => done(new Error("the instruments hung up")));
    socket.on("data", (chunk: string) => {
      text += chunk;
      if (text.length > LINE_MAX) return done(new Error("the instruments say too much"));
      if (text.split("\n").length > queries) done(null);
    });
    socket.write(`${lines.join("\n")}\n`);
    if (queries === 0) socket.end(() => done(null));
  });
}
