"use client";
import { Popover } from "radix-ui";
import { useRef } from "react";
import type { Working } from "@/core/working/types";
import { BrokeOff } from "../kit/BrokeOff";
import type { WorkingRequest } from "../workbench/context";
import { useAsked } from "../workbench/useQuestion";
import { WorkingCard } from "./WorkingCard";

/** The one card that shows the working of whichever figure was asked about; it follows the plan while it is open. */
export function WorkingPopover({ request, onClose }: { request: WorkingRequest | null; onClose: () => void }) {
  const {
    value: working,
    failed,
    start,
  } = useAsked<Working | null>(JSON.stringify(request?.of ?? null), async (ask) => (request ? ask("explain", request.of) : null));
  const anchor = useRef<HTMLElement | null>(null);
  const leftByPointer = useRef(false);
  if (request) anchor.current = request.anchor;

  return (
    <Popover.Root open={request !== null} onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor virtualRef={anchor as React.RefObject<HTMLElement>} />
      <Popover.Portal>
        <Popover.Content
          collisionPadding={8}
          sideOffset={4}
          className="z-50 w-[440px] max-w-[92vw] border-2 border-ink bg-sheet p-4 text-sm"
          aria-label={`Working of ${request?.label ?? "a figure"}`}
          onOpenAutoFocus={() => {
            leftByPointer.current = false;
          }}
          onInteractOutside={(event) => {
            // A second click on the figure itself closes the card there.
            if (anchor.current?.contains(event.target as Node)) event.preventDefault();
            else leftByPointer.current = true;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (!leftByPointer.current) anchor.current?.focus();
          }}
        >
          {failed ? <BrokeOff what="The working" again={start} /> : <WorkingCard working={working} />}
          <Popover.Arrow className="fill-ink" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
