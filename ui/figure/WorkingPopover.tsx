"use client";
import { Popover } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import type { Working } from "@/core/working/types";
import { useWorkbench, useWorkbenchContext, type WorkingRequest } from "../workbench/context";
import { WorkingCard } from "./WorkingCard";

/** The one card that shows the working of whichever figure was asked about; it follows the plan while it is open. */
export function WorkingPopover({ request, onClose }: { request: WorkingRequest | null; onClose: () => void }) {
  const { analyst } = useWorkbenchContext();
  const figures = useWorkbench((state) => state.analysis?.wires);
  const [working, setWorking] = useState<Working | null>(null);
  const anchor = useRef<HTMLElement | null>(null);
  const leftByPointer = useRef(false);
  if (request) anchor.current = request.anchor;

  // A new plan gives the same figure a new working.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the figures are not read here, but they are what changed
  useEffect(() => {
    if (!request) return setWorking(null);
    let wanted = true;
    void analyst()
      ?.explain(request.of)
      .then((found) => wanted && setWorking(found));
    return () => {
      wanted = false;
    };
  }, [request, figures, analyst]);

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
          <WorkingCard working={working} />
          <Popover.Arrow className="fill-ink" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
