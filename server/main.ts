import next from "next";
import QRCode from "qrcode";
import { database } from "./database";
import { frontServer } from "./front";
import { machineToPair } from "./machines";
import { homeAddresses, phoneServer } from "./phone-front";
import { newCode } from "./phones";
import { beginUpkeep } from "./upkeep";

/** Starts the built application: `node main.mjs HOST PORT [PHONE_PORT [MACHINE]]`. */
const [host = "127.0.0.1", port = "4830", phonePort, wanted] = process.argv.slice(2);
if (phonePort) process.env.NODE_LEDGER_PHONE = phonePort;
const app = next({ dev: false, dir: process.cwd(), hostname: host, port: Number(port) });
await app.prepare();
const handle = app.getRequestHandler();
frontServer((request, response) => handle(request, response)).listen(Number(port), host, beginUpkeep);

/** What is printed for a phone: address, code and picture; the code is for the machine named, or the one changed last. */
async function tellPhones(address: string): Promise<void> {
  const machine = machineToPair(database(), wanted);
  if (!machine) {
    process.stdout.write(`Phones:      ${address} (no machine ${wanted ? `called ${wanted}` : "on the list"} to pair with yet)\n`);
    return;
  }
  const { code } = newCode(database(), machine.id);
  const picture = await QRCode.toString(`${address}?code=${code}`, { type: "terminal", small: true });
  process.stdout.write(
    `Phones:      ${address}\nPairing:     code ${code} for ${machine.name}; works once, within ten minutes. New ones: Bring-up, Phones.\n${picture}\n`,
  );
}

if (phonePort)
  phoneServer((request, response) => handle(request, response), `127.0.0.1:${port}`).listen(Number(phonePort), "0.0.0.0", () => {
    const address = `http://${homeAddresses()[0] ?? "127.0.0.1"}:${phonePort}/phone`;
    // A ledger that cannot be used is said on every page; phones wait until it can.
    tellPhones(address).catch(() => process.stdout.write(`Phones:      ${address} (no code: the ledger cannot be used as it is)\n`));
  });
