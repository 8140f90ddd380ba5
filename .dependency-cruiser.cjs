/** Import direction: document → core → figures → screen. See docs/decisions/0002-rooms.md. */
const room = (names) => `^(${names.join("|")})/`;
const BESIDE_CORE = ["app", "ui", "state", "workers", "server", "cli", "demo", "tests"];

module.exports = {
  forbidden: [
    {
      name: "core-imports-only-core",
      severity: "error",
      from: { path: "^core/", pathNot: "\\.test\\.ts$" },
      to: { path: room(BESIDE_CORE) },
    },
    { name: "core-stays-pure", severity: "error", from: { path: "^core/", pathNot: "\\.test\\.ts$" }, to: { dependencyTypes: ["core"] } },
    {
      name: "core-small-libraries",
      severity: "error",
      from: { path: "^core/", pathNot: "\\.test\\.ts$" },
      to: { path: "^node_modules/", pathNot: "^node_modules/(zod|immer)/" },
    },
    {
      name: "workers-call-core",
      severity: "error",
      from: { path: "^workers/" },
      to: { path: room(["app", "ui", "state", "server", "cli", "demo"]) },
    },
    { name: "ui-never-server", severity: "error", from: { path: "^(ui|state)/" }, to: { path: room(["server", "app", "cli", "demo"]) } },
    { name: "state-never-ui", severity: "error", from: { path: "^state/" }, to: { path: "^ui/" } },
    {
      name: "server-never-ui",
      severity: "error",
      from: { path: "^server/", pathNot: "\\.test\\.ts$" },
      to: { path: room(["ui", "state", "app", "workers", "cli"]) },
    },
    {
      name: "demo-only-core",
      severity: "error",
      from: { path: "^demo/" },
      to: { path: room(["app", "ui", "state", "workers", "server", "cli"]) },
    },
    {
      name: "nobody-imports-tests",
      severity: "error",
      from: { path: "^(app|ui|state|workers|server|core|cli|demo)/", pathNot: "\\.test\\.ts$" },
      to: { path: "^tests/" },
    },
    { name: "no-circles", severity: "error", from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } } },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "require", "node", "default", "types"] },
  },
};
