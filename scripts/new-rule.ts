// npm run new-rule -- <id> <step> "<title>" [reads]: the file of a rule, its test, and its place in the list of rules.
import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { draftRule, RuleWords } from "./rule-draft";

const LIST = "core/verdicts/rules.ts";

const [id, step, title, reads] = process.argv.slice(2);
const words = RuleWords.safeParse({ id, step, title, reads });
if (!words.success) {
  console.error(
    `npm run new-rule -- <id> <step> "<title>" [build|figures|shorts|late]\n${words.error.issues.map(({ message }) => `- ${message}`).join("\n")}`,
  );
  process.exit(1);
}
try {
  const files = Object.entries(draftRule(words.data, readFileSync(LIST, "utf8")));
  const taken = files.find(([path]) => path !== LIST && existsSync(path));
  if (taken) throw new Error(`${taken[0]} is there already`);
  for (const [path, text] of files) writeFileSync(path, text);
  spawnSync("node_modules/.bin/biome", ["check", "--write", ...files.map(([path]) => path)]);
  console.log(
    `Written:\n${files.map(([path]) => `  ${path}`).join("\n")}\nIts test is red until the rule speaks; then give it its cases: tests/cases/${words.data.step}.ts`,
  );
} catch (problem) {
  console.error(problem instanceof Error ? problem.message : String(problem));
  process.exit(1);
}
