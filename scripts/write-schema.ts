import { writeFileSync } from "node:fs";
import { machineJsonSchema } from "@/core/exchange/json";

writeFileSync("docs/machine.schema.json", `${JSON.stringify(machineJsonSchema(), null, 2)}\n`);
