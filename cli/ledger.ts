import { ledger } from "./commands";

process.exitCode = await ledger(process.argv.slice(2), {
  out: (text) => process.stdout.write(text),
  err: (text) => process.stderr.write(text),
});
