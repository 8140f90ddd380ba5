"use client";
import { SeveralDialog } from "../feeds/SeveralDialog";
import { Dialog } from "../kit/Dialog";
import { AddPartDialog } from "../parts/AddPartDialog";
import { RemovePartDialog } from "../parts/RemovePartDialog";
import { MoreDialog } from "../start/MoreDialog";
import { AcceptDialog } from "../verdicts/AcceptDialog";
import { CommandMenu } from "./CommandMenu";
import type { DialogRequest } from "./context";
import { HistoryDialog } from "./HistoryDialog";
import { ModesDialog } from "./ModesDialog";
import { SettingsDialog } from "./SettingsDialog";
import { SHORTCUTS } from "./useShortcuts";

/** The dialogs any screen may ask for. */
export function FrameDialogs({ request, onClose }: { request: DialogRequest; onClose: () => void }) {
  switch (request?.kind) {
    case "add":
      return <AddPartDialog under={request.under} onClose={onClose} />;
    case "remove":
      return <RemovePartDialog partId={request.part} onClose={onClose} />;
    case "more":
      return <MoreDialog first={request.text ?? ""} onClose={onClose} />;
    case "several":
      return <SeveralDialog onClose={onClose} />;
    case "modes":
      return <ModesDialog onClose={onClose} />;
    case "settings":
      return <SettingsDialog onClose={onClose} />;
    case "history":
      return <HistoryDialog onClose={onClose} />;
    case "accept":
      return <AcceptDialog ids={request.verdicts} onClose={onClose} />;
    case "menu":
      return <CommandMenu onClose={onClose} />;
    case "keys":
      return (
        <Dialog
          open
          onOpenChange={onClose}
          title="Keys"
          description="Quantities are typed as people write them: 2.3A, 800 mA, 14awg, 1.5mm2, 3 ft, 250W @ 24V."
        >
          <dl className="grid grid-cols-[190px_1fr] gap-y-1.5 text-sm">
            {SHORTCUTS.map(({ keys, what }) => (
              <div key={keys} className="contents">
                <dt className="fig font-semibold">{keys}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </Dialog>
      );
    default:
      return null;
  }
}
