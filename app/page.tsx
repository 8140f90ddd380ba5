import { machinesAndWork } from "@/server/background";
import { database } from "@/server/database";
import { ledgerState } from "@/server/ledger-state";
import { deletedMachines } from "@/server/machines";
import { troubleShown } from "@/server/trouble-shown";
import { MachinesScreen } from "@/ui/machines/MachinesScreen";
import { TroubleScreen } from "@/ui/machines/TroubleScreen";

export const dynamic = "force-dynamic";

export default function MachinesPage() {
  const shown = troubleShown(() => {
    const db = database();
    const { path, bytes, backups } = ledgerState();
    return { machines: machinesAndWork(db), deleted: deletedMachines(db), ledger: { path, bytes, backups } };
  });
  if ("trouble" in shown) return <TroubleScreen state={shown.trouble} />;
  return <MachinesScreen {...shown.answer} />;
}
