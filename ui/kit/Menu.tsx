"use client";
import { DropdownMenu } from "radix-ui";
import { Button } from "./Button";

/** One thing that can be done, or a heading over several. */
export type MenuItem = { label: string; note?: string; act: () => void } | { heading: string };

/** A button that opens a list of things to do. */
export function Menu({ label, items, slim }: { label: string; items: readonly MenuItem[]; slim?: boolean }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <Button {...(slim ? { kind: "quiet" as const, className: "!px-0 !py-0 !text-xs" } : {})}>
          {label} <span aria-hidden>▾</span>
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={2}
          collisionPadding={8}
          className="z-30 max-h-[var(--radix-dropdown-menu-content-available-height)] min-w-[220px] overflow-y-auto border border-ink bg-sheet py-1 text-sm"
        >
          {items.map((item) =>
            "heading" in item ? (
              <DropdownMenu.Label key={`heading ${item.heading}`} className="px-3 pt-2 pb-0.5 text-xs font-semibold text-soft">
                {item.heading}
              </DropdownMenu.Label>
            ) : (
              <DropdownMenu.Item
                key={item.label}
                onSelect={item.act}
                className="flex cursor-pointer justify-between gap-6 px-3 py-1 outline-none data-[highlighted]:bg-tint max-sm:min-h-[44px] max-sm:items-center"
              >
                {item.label}
                {item.note && <span className="text-soft">{item.note}</span>}
              </DropdownMenu.Item>
            ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
