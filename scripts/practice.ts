// npm run practice: drafts every line and machine of the practice tables and says how many choices land where practice lands.
import { comparedMachine, summary } from "../tests/practice/compare";
import { MACHINES } from "../tests/practice/machines";
import { measured, practiceRows } from "../tests/practice/measure";

const only = process.argv.slice(2);
const found = practiceRows()
  .filter(({ id }) => only.length === 0 || only.includes(id))
  .flatMap((row) => measured(row).map((each) => ({ where: `${row.id} ${row.lengthM} m`, ...each })));
const whole = only.length > 0 ? [] : MACHINES.flatMap((machine) => comparedMachine(machine));
for (const { where, what, got, accepted, off } of [...found, ...whole])
  if (off !== 0 || only.length > 0)
    console.log(`${where.padEnd(16)} ${what.padEnd(12)} ${got.padEnd(12)} accepted ${accepted.padEnd(12)} ${off}`);
console.log(summary([...found, ...whole]));
