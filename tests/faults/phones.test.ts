import { request } from "node:http";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { App } from "@/tests/support/app";

const app = new App();
let machine = "";
beforeAll(async () => {
  await app.start(true);
  await app.seed();
  machine = app.example("Marble lift, corrected");
  for (let tries = 0; tries < 100; tries++) {
    if (await fetch(`${app.phoneUrl}/phone`).catch(() => null)) break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
});
afterAll(() => app.stop());

const JSON_HEAD = { "Content-Type": "application/json" };
const post = (path: string, body: unknown, headers: Record<string, string> = {}) =>
  fetch(`${app.phoneUrl}${path}`, { method: "POST", headers: { ...JSON_HEAD, ...headers }, body: JSON.stringify(body) });
const desk = (body: unknown) =>
  fetch(`${app.url}/api/machines/${machine}/phones`, { method: "POST", headers: JSON_HEAD, body: JSON.stringify(body) });

/** A request with a Host of its own, which fetch does not allow. */
function withHost(host: string, path = "/phone", headers: Record<string, string> = {}): Promise<number> {
  const { port } = new URL(app.phoneUrl);
  return new Promise((resolve, reject) => {
    request({ host: "127.0.0.1", port, path, headers: { Host: host, ...headers } }, (response) => {
      response.resume();
      resolve(response.statusCode ?? 0);
    })
      .on("error", reject)
      .end();
  });
}

async function paired(): Promise<string> {
  const { code, picture, url } = (await (await desk({ do: "pair" })).json()) as { code: string; picture: string; url: string };
  expect(picture).toContain("<svg");
  expect(url).toContain(code);
  let answer = await post("/api/phone/pair", { code, name: "Test phone" });
  while (answer.status === 429) {
    await new Promise((resolve) => setTimeout(resolve, 1000 * Number(answer.headers.get("retry-after"))));
    answer = await post("/api/phone/pair", { code, name: "Test phone" });
  }
  expect(answer.status).toBe(200);
  const cookie = answer.headers.get("set-cookie") ?? "";
  expect(cookie).toMatch(/HttpOnly/i);
  expect(cookie).toMatch(/SameSite=Strict/i);
  expect((await post("/api/phone/pair", { code, name: "Second" })).status).toBe(403);
  return cookie.split(";")[0] ?? "";
}

const reading = {
  queueId: "phone-reading-1",
  step: "tree:x",
  stage: "tree",
  place: "Volts at Bridge",
  quantity: "volts",
  value: 5.19,
  instrument: "hand",
  uncertainty: null,
  takenAt: "2026-03-01T10:00:00.000Z",
  note: "",
  way: "typed",
  expected: 5.2,
  basis: "abc",
  struck: false,
};

describe("the door for phones", () => {
  it("shows its own page and its files, and nothing else of the application", async () => {
    expect((await fetch(`${app.phoneUrl}/phone`)).status).toBe(200);
    for (const path of [
      "/",
      "/api/machines",
      `/api/machines/${machine}`,
      `/m/${machine}/loads`,
      "/compare",
      "/api/ledger",
      "/phone/../api/machines",
      "/_next/image?url=x",
      "/api/phone/anything",
    ])
      expect([401, 404], path).toContain((await fetch(`${app.phoneUrl}${path}`)).status);
    expect((await post("/api/machines", { kind: "blank", name: "Mine" })).status).toBe(404);
    expect((await fetch(`${app.phoneUrl}/phone`, { method: "POST" })).status).toBe(405);
  });

  it("tells a stranger nothing of the machine, and takes nothing from one", async () => {
    expect((await fetch(`${app.phoneUrl}/api/phone/plan`)).status).toBe(401);
    expect((await post("/api/phone/readings", { readings: [reading], waivers: [] })).status).toBe(401);
    expect(
      (await fetch(`${app.phoneUrl}/api/phone/plan`, { headers: { Cookie: "node-ledger-phone=AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA" } })).status,
    ).toBe(401);
  });

  it("lets a paired phone read its machine and add readings, once each, until the pairing is ended", async () => {
    const cookie = await paired();
    const plan = (await (await fetch(`${app.phoneUrl}/api/phone/plan`, { headers: { Cookie: cookie } })).json()) as {
      id: string;
      machine: { name: string };
    };
    expect(plan).toMatchObject({ id: machine, machine: { name: "Marble lift, corrected" } });
    for (let i = 0; i < 3; i++)
      expect((await post("/api/phone/readings", { readings: [reading], waivers: [] }, { Cookie: cookie })).status).toBe(200);
    const stored = (await (await fetch(`${app.url}/api/machines/${machine}/readings`)).json()) as { log: { readings: object[] } };
    expect(stored.log.readings).toEqual([{ ...reading, way: "phone" }]);
    // Adding is all: no other machine, no instruments, no document.
    expect((await post("/api/phone/readings", { readings: [], waivers: [], kit: {} }, { Cookie: cookie })).status).toBe(422);
    expect((await fetch(`${app.phoneUrl}/api/machines/${machine}`, { headers: { Cookie: cookie } })).status).toBe(404);
    const { phones } = (await (await fetch(`${app.url}/api/machines/${machine}/phones`)).json()) as {
      phones: { id: string; name: string }[];
    };
    expect(phones).toMatchObject([{ name: "Test phone" }]);
    expect((await desk({ do: "end", phone: phones[0]?.id })).status).toBe(200);
    expect((await fetch(`${app.phoneUrl}/api/phone/plan`, { headers: { Cookie: cookie } })).status).toBe(401);
  });

  it("answers to its own address only, and takes changes from its own page only", async () => {
    expect(await withHost("evil.example:80")).toBe(421);
    expect(await withHost(new URL(app.phoneUrl).host)).toBe(200);
    expect((await post("/api/phone/pair", { code: "AAAA-AAAA", name: "x" }, { Origin: "http://evil.example" })).status).toBe(403);
    expect((await post("/api/phone/pair", { code: "AAAA-AAAA", name: "x" }, { "Sec-Fetch-Site": "cross-site" })).status).toBe(403);
  });

  it("leads nowhere by ways that go up again, or that pretend to come from inside", async () => {
    const { host } = new URL(app.phoneUrl);
    for (const path of [
      "/_next/static/../../api/machines",
      "/_next/static/%2e%2e/%2e%2e/api/machines",
      "/_next/static/..%2f..%2fapi/machines",
      "//api/machines",
      "/phone/",
      "/api/machines?x=/phone",
    ])
      expect([400, 404, 308], path).toContain(await withHost(host, path));
    expect(await withHost(host, "/api/machines", { "x-forwarded-host": "127.0.0.1", "x-middleware-subrequest": "proxy" })).toBe(404);
  });

  it("refuses what is no request of a phone in words", async () => {
    const cookie = await paired();
    for (const body of [
      "no json",
      "{",
      JSON.stringify({ readings: [{ ...reading, value: "5" }], waivers: [] }),
      JSON.stringify({ readings: {} }),
    ]) {
      const answer = await fetch(`${app.phoneUrl}/api/phone/readings`, { method: "POST", headers: { ...JSON_HEAD, Cookie: cookie }, body });
      expect(answer.status).toBe(422);
      expect(answer.headers.get("content-type")).toContain("problem+json");
    }
    const large = await fetch(`${app.phoneUrl}/api/phone/readings`, {
      method: "POST",
      headers: { ...JSON_HEAD, Cookie: cookie },
      body: "x".repeat(2 * 1024 * 1024),
    });
    expect(large.status).toBe(422);
  });

  it("slows wrong codes, and looks at no right one meanwhile", async () => {
    const { code } = (await (await desk({ do: "pair" })).json()) as { code: string };
    for (let i = 0; i < 4; i++) expect([403, 429]).toContain((await post("/api/phone/pair", { code: "WRNG-CDEX", name: "x" })).status);
    const right = await post("/api/phone/pair", { code, name: "x" });
    expect(right.status).toBe(429);
    expect(Number(right.headers.get("retry-after"))).toBeGreaterThan(0);
  });
});

describe("without the option", () => {
  it("no phone is paired, and the server says how", async () => {
    const alone = new App();
    await alone.start();
    await alone.seed(["marble-lift"]);
    const answer = await fetch(`${alone.url}/api/machines/${alone.example("Marble lift")}/phones`, {
      method: "POST",
      headers: JSON_HEAD,
      body: JSON.stringify({ do: "pair" }),
    });
    expect(answer.status).toBe(409);
    await alone.stop();
  });
});
