"use client";
import { X } from "lucide-react";
import { Dialog as RadixDialog } from "radix-ui";
import { type ReactNode, useRef } from "react";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  description?: string;
  children: ReactNode;
  wide?: boolean;
  /** It is left by one of its own answers only. */
  must?: boolean;
}

/** A modal sheet of paper: ink frame, no shadow. Focus is trapped, and goes back to where it was: most are opened by a key. */
export function Dialog({ open, onOpenChange, title, description, children, wide, must }: Props) {
  const before = useRef<Element | null>(null);
  return (
    <RadixDialog.Root open={open} onOpenChange={onOpenChange}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-ink/40" />
        <RadixDialog.Content
          className={`fixed left-1/2 top-[8vh] z-50 max-h-[84vh] -translate-x-1/2 overflow-auto border-2 border-ink bg-sheet p-5 max-desk:inset-0 max-desk:max-h-none max-desk:w-full max-desk:translate-x-0 max-desk:border-0 ${wide ? "w-[min(860px,94vw)]" : "w-[min(560px,94vw)]"}`}
          onOpenAutoFocus={(event) => {
            before.current = document.activeElement;
            // The first thing to fill in, not the close button.
            const field = (event.currentTarget as HTMLElement).querySelector<HTMLElement>(
              "[data-first], form input:not([type=hidden]), form select",
            );
            if (!field) return;
            event.preventDefault();
            field.focus();
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            // What took the focus meanwhile, such as a row that was added, keeps it.
            const free = document.activeElement === null || document.activeElement === document.body;
            if (free && before.current instanceof HTMLElement && before.current.isConnected) before.current.focus({ preventScroll: true });
          }}
          {...(description ? {} : { "aria-describedby": undefined })}
        >
          <div className="flex items-start justify-between gap-4">
            <RadixDialog.Title className="text-lg font-bold">{title}</RadixDialog.Title>
            {!must && (
              <RadixDialog.Close aria-label="Close" className="p-1">
                <X size={16} aria-hidden />
              </RadixDialog.Close>
            )}
          </div>
          {description && <RadixDialog.Description className="mt-1 text-sm text-soft">{description}</RadixDialog.Description>}
          <div className="mt-4">{children}</div>
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}
