"use client";
import { Tabs } from "radix-ui";
import type { ReactNode } from "react";

interface Props<V extends string> {
  label: string;
  views: readonly { readonly id: V; readonly label: string }[];
  view: V;
  onView: (view: V) => void;
  className?: string;
  children: ReactNode;
}

/** Views of one pane of a dock: small words in its heading line. */
export function PaneTabs<V extends string>({ label, views, view, onView, className, children }: Props<V>) {
  return (
    <Tabs.Root
      value={view}
      onValueChange={(next) => {
        const found = views.find(({ id }) => id === next);
        if (found) onView(found.id);
      }}
      className={`flex min-h-0 min-w-0 flex-col ${className ?? ""}`}
    >
      <Tabs.List aria-label={label} className="flex shrink-0 gap-3 border-b border-hair px-3.5 pt-1.5 text-sm">
        {views.map(({ id, label: name }) => (
          <Tabs.Trigger
            key={id}
            value={id}
            className="pb-0.5 whitespace-nowrap text-soft hover:text-ink data-[state=active]:border-b-2 data-[state=active]:border-accent data-[state=active]:font-bold data-[state=active]:text-ink"
          >
            {name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value={view} tabIndex={-1} className="flex min-h-0 min-w-0 flex-1 flex-col">
        {children}
      </Tabs.Content>
    </Tabs.Root>
  );
}
