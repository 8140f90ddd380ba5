import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const alias = { "@": fileURLToPath(new URL(".", import.meta.url)).replace(/\/$/, "") };
const rooms = [
  "core",
  "server",
  "state",
  "cli",
  "demo",
  "scripts",
  "tests/reference",
  "tests/mistakes",
  "tests/cases",
  "tests/record",
  "tests/matrix",
  "tests/faults",
  "tests/earlier",
  "tests/lists",
  "tests/practice",
];

export default defineConfig({
  test: {
    // Both cores of a small machine; nothing else runs meanwhile.
    maxWorkers: 2,
    projects: [
      {
        resolve: { alias },
        test: {
          name: "core",
          include: rooms.map((room) => `${room}/**/*.test.ts`),
          environment: "node",
          testTimeout: 300_000,
          // A hook that starts the application waits for it as long as a test would.
          hookTimeout: 300_000,
          // Core keeps nothing but answers to what it was asked, so files share what they import; half of a run was loading it again.
          isolate: false,
        },
      },
      { resolve: { alias }, test: { name: "screens", include: ["ui/**/*.test.tsx"], environment: "node", testTimeout: 300_000 } },
    ],
  },
});
