// npm run matrix: tries every figure of every kind of part and writes down which rules speak, into docs/matrix.md.
import { writeFileSync } from "node:fs";
import { matrix } from "../tests/matrix/matrix";
import { document } from "../tests/matrix/table";

writeFileSync("docs/matrix.md", document(matrix()));
