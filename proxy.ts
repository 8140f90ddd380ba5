import { type NextRequest, NextResponse } from "next/server";
import { MAX_BODY_BYTES } from "@/server/json-limits";
import { allowedHost, allowedOrigin } from "@/server/origin";
import { problem, tooLarge } from "@/server/problem";

/** Guards every request: who may ask, from where, how much, and what the page may load. */
export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get("host");
  if (!allowedHost(host))
    return problem(421, "Wrong host", "Node Ledger answers on this machine only. Set NODE_LEDGER_HOSTS to allow another name.");
  if (request.method !== "GET" && request.method !== "HEAD") {
    if (!allowedOrigin(request.headers.get("origin"), host, request.headers.get("sec-fetch-site")))
      return problem(403, "Wrong origin", "Changes are accepted from Node Ledger's own pages only.");
    if (Number(request.headers.get("content-length") ?? 0) > MAX_BODY_BYTES) return tooLarge();
  }
  const nonce = Buffer.from(crypto.randomUUID()).toString("base64");
  const scripts = process.env.NODE_ENV === "development" ? "'unsafe-eval'" : "";
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' ${scripts}`,
    // Libraries place measured styles on elements; no style can run code.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("Content-Security-Policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("Content-Security-Policy", policy);
  response.headers.set("X-Content-Type-Options", "nosniff");
  response.headers.set("Referrer-Policy", "no-referrer");
  response.headers.set("X-Frame-Options", "DENY");
  response.headers.set("Cross-Origin-Opener-Policy", "same-origin");
  response.headers.set("Cross-Origin-Resource-Policy", "same-origin");
  response.headers.set("Permissions-Policy", "camera=(), microphone=(), geolocation=()");
  return response;
}

export const config = { matcher: [{ source: "/((?!_next/static|_next/image|favicon.ico).*)" }] };
