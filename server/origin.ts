/** Names of this machine that were allowed beside its own; those behind a TLS proxy are given as https://name. */
function extraNames(): string[] {
  return (process.env.NODE_LEDGER_HOSTS ?? "")
    .split(",")
    .map((each) => each.trim().toLowerCase())
    .filter((each) => each !== "");
}

/** Whether a Host header names this machine itself: a page on another name that resolves here must not get in. */
export function allowedHost(host: string | null): boolean {
  if (!host) return false;
  const name = host.replace(/:\d+$/, "").toLowerCase();
  return ["127.0.0.1", "localhost", "[::1]", ...extraNames().map((each) => each.replace("https://", ""))].includes(name);
}

/**
 * Whether a change comes from our own pages: browsers state the origin of every request that changes something, and where
 * it stands to us (`Sec-Fetch-Site`). Programs that are no browsers state neither.
 */
export function allowedOrigin(origin: string | null, host: string | null, site: string | null = null): boolean {
  if (site !== null && site !== "same-origin" && site !== "none") return false;
  if (origin === null) return true;
  try {
    const from = new URL(origin);
    const secure = extraNames().includes(`https://${from.hostname}`);
    return from.host === host?.toLowerCase() && from.protocol === (secure ? "https:" : "http:");
  } catch {
    return false;
  }
}
