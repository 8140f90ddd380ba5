"use client";
import { Tabs } from "radix-ui";
import type { ReactNode } from "react";

interface Props<V extends string> {
  label: string;
  views: readonly { readonly id: V; readonly label: string }[];
  view: V;
  onView: (view: V) => void;
  /** Stands at the right of the tabs. */
  tools?: ReactNode;
  children: ReactNode;
}

/** Views of one step as tabs; only the chosen one is there. */
export function ViewTabs<V extends string>({ label, views, view, onView, tools, children }: Props<V>) {
  return (
    <Tabs.Root
      value={view}
      onValueChange={(next) => {
        const found = views.find(({ id }) => id === next);
        if (found) onView(found.id);
      }}
      className="flex min-h-0 flex-1 flex-col"
    >
      <div className="no-print flex shrink-0 items-baseline gap-4 border-b border-hair px-2 text-sm">
        <Tabs.List aria-label={label} className="flex shrink-0">
          {views.map(({ id, label: name }) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="px-2.5 py-1 whitespace-nowrap text-soft hover:text-ink data-[state=active]:border-b-2 data-[state=active]:border-accent data-[state=active]:font-bold data-[state=active]:text-ink"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {tools}
      </div>
      <Tabs.Content value={view} tabIndex={-1} className="flex min-h-0 flex-1 flex-col">
        {children}
      </Tabs.Content>
    </Tabs.Root>
  );
}
