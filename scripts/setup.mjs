// Shared set-up of the commands: each one installs and builds what is missing on a fresh machine, and nothing twice.
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), "..");
process.chdir(ROOT);

const BUILT_FROM = [
  "app",
  "ui",
  "state",
  "workers",
  "server",
  "core",
  "demo",
  "proxy.ts",
  "scripts/bundle.mjs",
  "scripts/rules-version.mjs",
  "next.config.ts",
  "postcss.config.mjs",
  "tsconfig.json",
  "package-lock.json",
];

export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: "inherit", cwd: ROOT, ...options });
  if (result.error) throw result.error;
  return result.status ?? 1;
}

/** Runs to its end, so that something else can run beside it; nothing goes on when it fails. */
async function must(what, command, args, options = {}) {
  const child = spawn(command, args, { stdio: "inherit", cwd: ROOT, ...options });
  const code = await new Promise((resolve) => child.on("error", () => resolve(1)).on("close", resolve));
  if (code === 0) return;
  console.error(`\n${what} failed; see above.`);
  process.exit(1);
}

function hash(paths) {
  const digest = createHash("sha256");
  const visit = (path) => {
    if (!existsSync(path)) return;
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) visit(join(path, name));
    else if (!/\.test\.tsx?$/.test(path)) digest.update(path).update(readFileSync(path));
  };
  for (const path of paths) visit(path);
  return digest.digest("hex");
}

function upToDate(stamp, now) {
  return existsSync(stamp) && readFileSync(stamp, "utf8") === now;
}

/**
 * Node packages, when the lock file asks for others than are here. They can be read when this is done, but the database
 * driver runs only after `compiled`, which may go on beside a build.
 */
export async function fetched() {
  const stamp = join("node_modules", ".node-ledger-stamp");
  const now = hash(["package-lock.json"]);
  if (upToDate(stamp, now)) return { compiled: async () => undefined };
  console.log("Installing packages…");
  await must("Installing packages", "npm", ["ci", "--include=dev", "--no-fund", "--no-audit", "--ignore-scripts"]);
  return {
    compiled: async () => {
      console.log("Compiling the database driver (a minute or two, the first time only)…");
      // The last flag wins: at -O3 the compiler takes twice as long, for a database that is asked a few rows at a time.
      await must("Compiling the database driver", "npm", ["rebuild", "--no-fund", "--no-audit"], {
        env: { ...process.env, CFLAGS: "-O1", CXXFLAGS: "-O1" },
      });
      writeFileSync(stamp, now);
    },
  };
}

/** The production build, when a source changed since the last one. */
export async function build() {
  const stamp = join(".next", "node-ledger-stamp");
  const now = hash(BUILT_FROM);
  if (upToDate(stamp, now)) return;
  console.log("Building…");
  await must("The build", join("node_modules", ".bin", "next"), ["build"], {
    env: { ...process.env, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" },
  });
  await must("The server's bundle", process.execPath, ["scripts/bundle.mjs"]);
  writeFileSync(stamp, now);
}

/** Everything the application needs to start: packages, and beside each other its build and the compiled driver. */
export async function prepare() {
  const { compiled } = await fetched();
  await Promise.all([build(), compiled()]);
}

/** The first free port from `wanted` on. */
export async function freePort(wanted, host = "127.0.0.1") {
  for (let port = wanted; port < wanted + 50; port++) {
    const free = await new Promise((resolve) => {
      const probe = createServer();
      probe.once("error", () => resolve(false));
      probe.listen(port, host, () => probe.close(() => resolve(true)));
    });
    if (free) return port;
  }
  throw new Error("no free port");
}

/** The built application as a process of its own. */
export function startServer(host, port, database, options = {}, phone = []) {
  return spawn(process.execPath, [join(".next", "node-ledger", "main.mjs"), host, String(port), ...phone], {
    cwd: ROOT,
    env: { ...process.env, NODE_ENV: "production", NODE_LEDGER_DB: database, NEXT_TELEMETRY_DISABLED: "1" },
    ...options,
  });
}

/**
 * Starts the built application on 127.0.0.1 unless NODE_LEDGER_BIND says otherwise, and prints the address. With `--phone` among
 * the words a second, narrow door opens to the home network; `--machine NAME` says which machine its first code is for.
 */
export async function serve(database, words = process.argv.slice(2)) {
  const bind = process.env.NODE_LEDGER_BIND ?? "127.0.0.1";
  const port = process.env.PORT ? Number(process.env.PORT) : await freePort(4830);
  console.log(`\nNode Ledger: http://${bind}:${port}\nDatabase:    ${database}\nStop with Ctrl C.\n`);
  const named = words[words.indexOf("--machine") + 1];
  const phone = words.includes("--phone")
    ? [String(await freePort(port + 1, "0.0.0.0")), ...(words.includes("--machine") && named ? [named] : [])]
    : [];
  const out = phone.length > 0 ? "inherit" : "ignore";
  const child = startServer(bind, port, database, { stdio: ["inherit", out, "inherit"] }, phone);
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
  child.on("exit", (code) => process.exit(code ?? 0));
}
