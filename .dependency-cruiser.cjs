/** Import direction: document → core → figures → screen. See docs/decisions/0002-rooms.md and 0019-floors.md. */
const room = (names) => `^(${names.join("|")})/`;
const BESIDE_CORE = ["app", "ui", "state", "workers", "server", "cli", "demo", "tests"];

/** The rooms of core from the ground up: each imports from rooms below it only. A new room takes its place here. */
const FLOORS = [
  "quantity",
  "reference",
  "machine",
  "wires",
  "packs",
  "converters",
  "loads",
  "drivers",
  "connectors",
  "fuses",
  "network",
  "figures",
  "faults",
  "sources",
  "returns",
  "bringup",
  "verdicts",
  "analysis",
  "sizing",
  "choosing",
  "settling",
  "working",
  "sheet",
  "exchange",
  "drafting",
  "glossary",
  "engine",
];

/** No room imports from one that stands above it. */
const floors = FLOORS.slice(0, -1).map((name, floor) => ({
  name: `core-${name}-looks-down`,
  severity: "error",
  from: { path: `^core/${name}/`, pathNot: "\\.test\\.ts$" },
  to: { path: `^core/(${FLOORS.slice(floor + 1).join("|")})/` },
}));

/** A room nobody gave a floor would be held to nothing. */
const unplaced = {
  name: "core-room-has-a-floor",
  severity: "error",
  from: {},
  to: { path: "^core/", pathNot: `^core/(${FLOORS.join("|")})/` },
};

module.exports = {
  forbidden: [
    ...floors,
    unplaced,
    {
      name: "rules-stand-alone",
      comment: "A rule knows no other rule; what several say or offer stands beside them in core/verdicts/, what they read below.",
      severity: "error",
      from: { path: "^core/verdicts/[a-z]+/", pathNot: "\\.test\\.ts$" },
      to: { path: "^core/verdicts/([a-z]+/|rules|late)" },
    },
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
      to: { path: "^node_modules/", pathNot: "^node_modules/(zod|immer|papaparse|@types/papaparse)/" },
    },
    {
      name: "workers-call-core",
      severity: "error",
      from: { path: "^workers/" },
      to: { path: room(["app", "ui", "state", "server", "cli", "demo"]) },
    },
    { name: "ui-never-server", severity: "error", from: { path: "^(ui|state)/" }, to: { path: room(["server", "app", "cli", "demo"]) } },
    {
      name: "paper-is-a-picture",
      comment: "Pages are static markup of what core laid out: screens and the command line print the same.",
      severity: "error",
      from: { path: "^ui/paper/" },
      to: { path: "^(ui/(?!paper/)|state|workers|app)" },
    },
    {
      name: "cli-prints-paper-only",
      severity: "error",
      from: { path: "^cli/" },
      to: { path: "^(ui/(?!paper/)|state|workers|app|server)" },
    },
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
