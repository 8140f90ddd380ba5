// npm run record: writes down what is computed of the recorded machines, after a change that is meant to move figures.
import { writeFileSync } from "node:fs";
import { recordOfCases } from "../tests/record/cases";
import { RECORDED } from "../tests/record/machines";
import { recordOf } from "../tests/record/record";

for (const [name, make] of Object.entries(RECORDED)) writeFileSync(`tests/record/${name}.txt`, `${recordOf(make()).join("\n")}\n`);
writeFileSync("tests/record/cases.txt", `${recordOfCases().join("\n")}\n`);
