import { createConnection } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { App } from "@/tests/support/app";
import { randomFrom } from "@/tests/support/random";

/** Requests made at random; a usual run has the first of them. */
const TRIED = process.env.NODE_LEDGER_SEEDS === "all" ? 5000 : 2000;

const app = new App();
beforeAll(async () => {
  await app.start();
  await app.seed();
});
afterAll(() => app.stop());

interface Answer {
  readonly status: number;
  readonly head: string;
  readonly body: string;
}

/** Sends bytes as they are and reads what comes back. Null: the connection was closed without a word. */
function raw(bytes: string | Buffer, ms = 10_000): Promise<Answer | null> {
  return new Promise((resolve, reject) => {
    const { hostname, port } = new URL(app.url);
    const socket = createConnection(Number(port), hostname, () => socket.write(bytes as string, "latin1"));
    const chunks: Buffer[] = [];
    const timer = setTimeout(() => {
      socket.destroy();
      reject(new Error(`no answer to ${JSON.stringify(bytes.toString("latin1").slice(0, 300))}`));
    }, ms);
    const done = () => {
      clearTimeout(timer);
      const text = Buffer.concat(chunks).toString("latin1");
      const at = text.indexOf("\r\n\r\n");
      if (text === "") resolve(null);
      else
        resolve({
          status: Number(/^HTTP\/1\.1 (\d+)/.exec(text)?.[1] ?? 0),
          head: text.slice(0, at).toLowerCase(),
          body: text.slice(at + 4),
        });
    };
    socket.on("data", (chunk) => chunks.push(chunk));
    socket.on("close", done);
    socket.on("error", () => undefined);
  });
}

const host = () => new URL(app.url).host;
const request = (method: string, path: string, headers: Record<string, string> = {}, body = "") =>
  `${method} ${path} HTTP/1.1\r\nHost: ${host()}\r\nConnection: close\r\n${Object.entries(headers)
    .map(([name, value]) => `${name}: ${value}\r\n`)
    .join("")}\r\n${body}`;
const json = (method: string, path: string, body: string, headers: Record<string, string> = {}) =>
  request(
    method,
    path,
    { "Content-Type": "application/json", "Content-Length": String(Buffer.byteLength(body, "latin1")), ...headers },
    body,
  );

const isProblem = ({ head, body }: Answer) => head.includes("content-type: application/problem+json") && body.includes('"status":');
/** Resident memory of the server, MB. */
const memory = async () => {
  const { readFileSync } = await import("node:fs");
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${app.pid}/status`, "utf8"))?.[1] ?? 0) / 1024;
};

describe("a malformed request", () => {
  it("is answered with a problem body and a reason, whatever is wrong with it", async () => {
    const brackets = "[".repeat(4_000_000);
    const cases: [string, string, number][] = [
      ["TRACE", request("TRACE", "/"), 405],
      ["an unknown method", request("BREW", "/"), 400],
      ["CONNECT", `CONNECT ${host()} HTTP/1.1\r\nHost: ${host()}\r\n\r\n`, 405],
      ["broken percent-encoding in the path", request("GET", "/%zz"), 400],
      ["half a character in the path", request("GET", "/m/%c3/feeds"), 400],
      ["a zero in the path", request("GET", "/m/%00/feeds"), 400],
      ["broken percent-encoding in the query", request("GET", "/compare?a=%e0%a4"), 400],
      ["a very long address", request("GET", `/${"a".repeat(5000)}`), 414],
      ["a head without end", request("GET", "/", { "X-Long": "a".repeat(40_000) }), 431],
      ["no HTTP at all", "hello\r\n\r\n", 400],
      ["a length that is none", request("POST", "/api/machines", { "Content-Length": "many" }), 400],
      ["two lengths", request("POST", "/api/machines", { "Content-Length": "3\r\nContent-Length: 5" }, "abcde"), 400],
      ["another content type", request("POST", "/api/machines", { "Content-Type": "text/plain", "Content-Length": "2" }, "{}"), 415],
      [
        "a form",
        request("POST", "/api/machines", { "Content-Type": "application/x-www-form-urlencoded", "Content-Length": "3" }, "a=b"),
        415,
      ],
      ["no JSON", json("POST", "/api/machines", "{"), 400],
      ["bytes that are no text", json("POST", "/api/machines", "\u00ff\u00fe"), 400],
      ["brackets", json("POST", "/api/machines", brackets), 400],
      ["brackets for edits", json("POST", "/api/machines/x/edits", brackets), 400],
      ["a post to a page", request("POST", "/", { "Content-Length": "2" }, "{}"), 405],
      ["a body with a read", request("GET", "/", { "Content-Length": "2" }, "{}"), 400],
      ["an action of a page", request("GET", "/", { "Next-Action": "a".repeat(40) }), 400],
      ["a state of the page that is none", request("GET", "/", { RSC: "1", "Next-Router-State-Tree": "%5Bnonsense" }), 400],
      ["another host", `GET / HTTP/1.1\r\nHost: evil.example\r\nConnection: close\r\n\r\n`, 421],
      ["another origin", json("POST", "/api/machines", "{}", { Origin: "http://evil.example" }), 403],
      ["another scheme", json("POST", "/api/machines", "{}", { Origin: `https://${host()}` }), 403],
      ["another site", json("POST", "/api/machines", "{}", { "Sec-Fetch-Site": "cross-site" }), 403],
      ["a machine that is none", json("PUT", "/api/machines/x", '{"base":1,"label":"","document":{}}'), 422],
      ["edits that are none", json("POST", "/api/machines/x/edits", '{"base":1,"origin":"w","edits":[{}]}'), 400],
      ["a way that is none", json("POST", "/api/ledger", '{"action":"burn"}'), 400],
    ];
    for (const [what, bytes, status] of cases) {
      const answer = await raw(bytes);
      expect([what, answer?.status], what).toEqual([what, status]);
      expect(answer && isProblem(answer), what).toBe(true);
    }
  });

  it("of 200 MB to any page or route costs neither time nor memory", async () => {
    const before = await memory();
    for (const path of ["/", "/m/x/feeds", "/api/machines", "/api/machines/x/edits", "/nowhere"]) {
      const answer = await fetch(app.url + path, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: new Uint8Array(200 << 20),
      });
      expect([405, 413]).toContain(answer.status);
      expect(answer.headers.get("content-type")).toContain("problem+json");
    }
    expect((await memory()) - before).toBeLessThan(250);
  });

  it("is made at random: none is met by silence or a fault without words, and the ledger is as it was", async () => {
    const random = randomFrom(99);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
    const list = (await (await fetch(`${app.url}/api/machines`)).json()) as { id: string; revision: number }[];
    const known = list[0]?.id ?? "";
    const noise = (n: number) =>
      Array.from({ length: Math.floor(random() * n) }, () => String.fromCharCode(Math.floor(random() * 256))).join("");
    const ids = [known, "nobody", "..%2f..", "%2e%2e", "a'b\"--", "%f0%9f%98%80", noise(9).replace(/[\s?#]/g, "")];
    const paths = () =>
      pick([
        () => "/api/machines",
        () => `/api/machines/${pick(ids)}`,
        () => `/api/machines/${pick(ids)}/edits`,
        () => `/api/machines/${pick(ids)}/history`,
        () => `/api/machines/${pick(ids)}/history/${pick(["1", "-1", "1e9", "x", "NaN", "0x1"])}`,
        () => `/api/machines/${pick(ids)}/export`,
        () => `/api/machines/${pick(ids)}?known=${pick(["1", "x", "", "%31", "1e400"])}`,
        () => `/api/compare?a=${pick(ids)}&b=${pick(ids)}`,
        () => "/api/shelf",
        () => `/api/shelf/${pick(ids)}`,
        () => "/api/shelf/uses",
        () => `/m/${pick(ids)}/${pick(["feeds", "nowhere", "%ff", "__proto__"])}?revision=${pick(["1", "x", "-1", "%00", ""])}`,
        () => `/compare?a=${pick(ids)}&a=${pick(ids)}`,
        () => `/${noise(30)}`,
        () => `//${noise(10)}`,
        () => "/_next/image?url=http://evil.example",
      ])();
    const values = [
      "null",
      "[]",
      "{}",
      '""',
      "1e999",
      "-0",
      '"\\ud800"',
      '{"__proto__":{"a":1}}',
      "[[[[[[]]]]]]",
      "true",
      '{"kind":"import","document":null}',
    ];
    const bodies = () =>
      pick([
        () => pick(values),
        () => `{"base":${pick(values)},"label":${pick(values)},"document":${pick(values)}}`,
        () =>
          `{"base":1,"origin":"w","edits":[{"id":"edit-${Math.floor(random() * 1e6)}-xx","at":"2026-01-01T00:00:00Z","label":"x","changes":[{"path":${pick(['["parts"]', '["parts","x"]', '["__proto__","a"]', '["settings","constructor","a"]', '["modes"]', '["name"]', "[]"])},"before":${pick(values)},"after":${pick(values)}}]}]}`,
        () => `{"kind":${pick(['"blank"', '"import"', '"example"', "7"])},"name":${pick(values)},"key":${pick(values)}}`,
        () => `{"action":${pick(['"restore"', '"use"', '"burn"'])},"backup":"../../x","file":"/nowhere/${Math.floor(random() * 1e6)}"}`,
        () => noise(300),
        () => "{".repeat(Math.floor(random() * 5000)),
        () => '"'.repeat(Math.floor(random() * 50)),
      ])();
    const heads = (): Record<string, string> =>
      pick([
        (): Record<string, string> => ({}),
        () => ({ RSC: "1" }),
        () => ({ RSC: "1", "Next-Router-State-Tree": pick(["%5B%22%22%5D", "[]", "null", "%7B%7D", noise(20).replace(/[\r\n\0]/g, "")]) }),
        () => ({ "Next-Router-Prefetch": pick(["1", "9", "x"]), RSC: "1" }),
        () => ({ "Next-Url": noise(20).replace(/[\r\n\0]/g, "") }),
        () => ({ "X-Middleware-Subrequest": "proxy:proxy:proxy", "X-Nonce": "'" }),
        () => ({ Accept: pick(["*/*", "text/x-component", "application/json", noise(10).replace(/[\r\n\0]/g, "")]) }),
        () => ({ "If-None-Match": noise(10).replace(/[\r\n\0]/g, ""), Range: "bytes=9-1" }),
        () => ({ Cookie: noise(40).replace(/[\r\n\0]/g, ""), "Transfer-Encoding": pick(["chunked", "gzip", "identity"]) }),
      ])();
    const dull: string[] = [];
    const silent: string[] = [];
    const one = async () => {
      const method = pick(["GET", "HEAD", "POST", "PUT", "DELETE", "PATCH", "OPTIONS", "TRACE", "BREW"]);
      const path = method === "DELETE" || method === "POST" || method === "PUT" ? paths().replace(known, "nobody") : paths();
      const body = bodies();
      const reads = method === "GET" || method === "HEAD";
      const bytes = reads
        ? request(method, path, heads())
        : json(method, path, body, {
            ...heads(),
            ...(random() < 0.2 ? { "Content-Type": pick(["text/html", "", "application/json;charset=x", "multipart/form-data"]) } : {}),
          });
      const sent = Buffer.from(random() < 0.1 ? bytes.slice(0, Math.floor(random() * bytes.length)) : bytes, "latin1");
      // Cut off: nothing more will come, and the server must not wait for it for ever.
      const whole = sent.length === Buffer.byteLength(bytes, "latin1");
      const answer = whole ? await raw(sent) : await cutOff(sent);
      if (answer && answer.status >= 500 && !isProblem(answer)) dull.push(bytes.slice(0, 300));
      if (whole && !answer) silent.push(bytes.slice(0, 300));
    };
    for (let i = 0; i < TRIED; i += 20) await Promise.all(Array.from({ length: 20 }, one));
    expect(dull).toEqual([]);
    expect(silent).toEqual([]);
    const after = (await (await fetch(`${app.url}/api/machines`)).json()) as { id: string; revision: number }[];
    const row = after.find(({ id }) => id === known);
    expect(row?.revision).toBe(list[0]?.revision);
  });

  /** Sends the beginning of a request and hangs up. */
  function cutOff(bytes: Buffer): Promise<Answer | null> {
    return new Promise((resolve) => {
      const { hostname, port } = new URL(app.url);
      const socket = createConnection(Number(port), hostname, () => socket.end(bytes));
      const chunks: Buffer[] = [];
      socket.on("data", (chunk) => chunks.push(chunk));
      socket.on("error", () => undefined);
      setTimeout(() => socket.destroy(), 300);
      socket.on("close", () => {
        const text = Buffer.concat(chunks).toString("latin1");
        const at = text.indexOf("\r\n\r\n");
        resolve(
          text === ""
            ? null
            : { status: Number(/^HTTP\/1\.1 (\d+)/.exec(text)?.[1] ?? 0), head: text.slice(0, at).toLowerCase(), body: text.slice(at + 4) },
        );
      });
    });
  }
});
