import { EXAMPLES } from "@/demo/index";
import { database } from "@/server/database";
import { listMachines } from "@/server/machines";
import { MachinesScreen } from "@/ui/machines/MachinesScreen";

export const dynamic = "force-dynamic";

export default function MachinesPage() {
  const examples = EXAMPLES.map(({ key, make }) => ({ key, name: make().name }));
  return <MachinesScreen machines={listMachines(database())} examples={examples} />;
}
