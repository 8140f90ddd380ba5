import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

export default defineConfig({
  resolve: { alias: { "@": fileURLToPath(new URL(".", import.meta.url)).replace(/\/$/, "") } },
  test: {
    include: [
      "core/**/*.test.ts",
      "server/**/*.test.ts",
      "state/**/*.test.ts",
      "ui/**/*.test.tsx",
      "cli/**/*.test.ts",
      "scripts/**/*.test.ts",
      "demo/**/*.test.ts",
      "tests/reference/**/*.test.ts",
    ],
    environment: "node",
    testTimeout: 120_000,
  },
});
