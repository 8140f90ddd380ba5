import { createServer, type IncomingMessage, type Server, type ServerResponse, STATUS_CODES } from "node:http";
import type { Duplex } from "node:stream";
import { UNKNOWN_FAULT } from "./faults";
import { MAX_BODY_BYTES } from "./json-limits";

/** Why a request is turned away before anything of it is worked with. */
export interface Refusal {
  readonly status: number;
  readonly detail: string;
}

const MAX_URL = 4096;
/** How long the rest of a body that nobody wants is let run out, ms: who sends it may then read why. */
const DRAIN_MS = 5000;
const METHODS: ReadonlySet<string> = new Set(["GET", "HEAD", "POST", "PUT", "DELETE"]);

const decodes = (text: string): boolean => {
  try {
    return !decodeURIComponent(text).includes("\0");
  } catch {
    return false;
  }
};

/** Looks at the head of a request: its method, address, stated size, and what only our own pages send. */
export function refusal({ method = "", url = "", headers }: Pick<IncomingMessage, "method" | "url" | "headers">): Refusal | null {
  if (!METHODS.has(method)) return { status: 405, detail: `Requests of the kind ${method.slice(0, 20)} are not answered here.` };
  if (url.length > MAX_URL) return { status: 414, detail: "That address is longer than any of Node Ledger's." };
  const [path = "", query = ""] = url.split("?");
  if (!path.startsWith("/") || path.includes("\\") || !decodes(path) || !decodes(query.replace(/\+/g, " ")))
    return { status: 400, detail: "That address is not well formed." };
  const reads = method === "GET" || method === "HEAD";
  const isApi = path === "/api" || path.startsWith("/api/");
  if (!reads && !isApi) return { status: 405, detail: "Pages are only read. Nothing was changed." };
  const stated = headers["content-length"];
  if (stated !== undefined && !/^\d{1,15}$/.test(stated)) return { status: 400, detail: "The stated length is no number." };
  if (Number(stated ?? 0) > MAX_BODY_BYTES)
    return { status: 413, detail: "That is larger than any machine this tool writes (8 MB). Nothing was changed." };
  if (reads && (Number(stated ?? 0) > 0 || headers["transfer-encoding"] !== undefined))
    return { status: 400, detail: "A request that reads carries no body." };
  const tree = headers["next-router-state-tree"];
  if (tree !== undefined && !isStateTree(tree)) return { status: 400, detail: "The state of the page is not readable." };
  if (headers["next-action"] !== undefined) return { status: 400, detail: "There is no such action." };
  return null;
}

/** What a page states of itself: segments, each with the segments under it by name. Anything else makes a fault of the framework. */
function isStateTree(header: string | string[]): boolean {
  const isNode = (value: unknown, depth: number): boolean => {
    if (!Array.isArray(value) || value.length < 2 || depth > 20) return false;
    const [segment, under] = value as unknown[];
    const named =
      typeof segment === "string" ||
      (Array.isArray(segment) && segment.length >= 3 && segment.slice(0, 3).every((each) => typeof each === "string"));
    if (!named || typeof under !== "object" || under === null || Array.isArray(under)) return false;
    return Object.values(under).every((each) => isNode(each, depth + 1));
  };
  try {
    return isNode(JSON.parse(decodeURIComponent(String(header))), 0);
  } catch {
    return false;
  }
}

/** An error as the text of application/problem+json (RFC 9457). */
export function problemText(status: number, detail: string): string {
  return JSON.stringify({ type: "about:blank", title: STATUS_CODES[status] ?? "Refused", status, detail });
}

function refuse(request: IncomingMessage, response: ServerResponse, { status, detail }: Refusal): void {
  const body = problemText(status, detail);
  response.writeHead(status, {
    "Content-Type": "application/problem+json",
    "Content-Length": Buffer.byteLength(body),
    "X-Content-Type-Options": "nosniff",
    ...(status === 405 ? { Allow: [...METHODS].join(", ") } : {}),
  });
  response.end(body);
  // What still comes is thrown away as it comes, so that the sender reads the answer; and not for ever.
  const timer = setTimeout(() => request.socket.destroy(), DRAIN_MS);
  request.on("close", () => clearTimeout(timer));
  request.resume();
}

/** Answers what is not even a request in the words of all other errors. */
function refuseRaw(socket: Duplex, status: number, detail: string): void {
  if (!socket.writable) return void socket.destroy();
  const body = problemText(status, detail);
  socket.end(
    `HTTP/1.1 ${status} ${STATUS_CODES[status]}\r\nContent-Type: application/problem+json\r\nContent-Length: ${Buffer.byteLength(body)}\r\nConnection: close\r\n\r\n${body}`,
  );
}

/** A fault that a page met is told in a problem body, unless it is a person who asked for the page. */
function tellFaults(request: IncomingMessage, response: ServerResponse): void {
  if (String(request.headers.accept ?? "").includes("text/html")) return;
  const { writeHead, write, end } = response;
  let told = false;
  const tell = () => {
    if (told || response.statusCode < 500 || response.headersSent) return told;
    if (String(response.getHeader("content-type") ?? "").includes("problem+json")) return false;
    told = true;
    for (const name of response.getHeaderNames()) if (/^(content-|etag|transfer)/.test(name)) response.removeHeader(name);
    response.setHeader("Content-Type", "application/problem+json");
    return true;
  };
  const text = () => problemText(response.statusCode, UNKNOWN_FAULT);
  response.writeHead = ((status: number, ...rest: never[]) => {
    response.statusCode = status;
    return tell() ? response : writeHead.call(response, status, ...rest);
  }) as typeof response.writeHead;
  response.write = ((...args: Parameters<typeof write>) => (tell() ? true : write.apply(response, args))) as typeof response.write;
  response.end = ((...args: Parameters<typeof end>) => {
    if (!tell()) return end.apply(response, args);
    // From here on it is the plain response again: ending it writes its head.
    Object.assign(response, { writeHead, write, end });
    return end.call(response, text(), "utf8");
  }) as typeof response.end;
}

/** The server that stands before the pages and routes: what is malformed goes no further, and nothing is waited for for ever. */
export function frontServer(handle: (request: IncomingMessage, response: ServerResponse) => Promise<void>): Server {
  const server = createServer({ requestTimeout: 60_000, headersTimeout: 15_000, maxHeaderSize: 16 * 1024 }, (request, response) => {
    const refused = refusal(request);
    if (refused) return refuse(request, response, refused);
    tellFaults(request, response);
    handle(request, response).catch(() => {
      if (response.headersSent) return response.destroy();
      response.writeHead(500, { "Content-Type": "application/problem+json" });
      response.end(problemText(500, UNKNOWN_FAULT));
    });
  });
  server.on("clientError", (error: NodeJS.ErrnoException, socket) => {
    if (error.code === "ECONNRESET") return void socket.destroy();
    const tooLong = error.code === "HPE_HEADER_OVERFLOW";
    const late = error.code === "ERR_HTTP_REQUEST_TIMEOUT";
    refuseRaw(
      socket,
      tooLong ? 431 : late ? 408 : 400,
      tooLong ? "The head of the request is too long." : "That is not a well formed request.",
    );
  });
  server.on("connect", (_request, socket) => refuseRaw(socket, 405, "Requests of the kind CONNECT are not answered here."));
  return server;
}
