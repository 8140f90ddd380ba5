"use client";
import { clsx } from "clsx";
import { Tabs } from "radix-ui";
import type { ReactNode } from "react";
import { PaneBoundary } from "./PaneBoundary";

interface Props<V extends string> {
  label: string;
  views: readonly { readonly id: V; readonly label: string }[];
  view: V;
  onView: (view: V) => void;
  /** Views of one pane of a dock: small words in its heading line. */
  slim?: boolean;
  className?: string;
  /** Stands at the right of the tabs. */
  tools?: ReactNode;
  children: ReactNode;
}

/** Views of one step, or of one pane, as tabs; only the chosen one is there. */
export function ViewTabs<V extends string>({ label, views, view, onView, slim, className, tools, children }: Props<V>) {
  return (
    <Tabs.Root
      value={view}
      onValueChange={(next) => {
        const found = views.find(({ id }) => id === next);
        if (found) onView(found.id);
      }}
      className={clsx("flex min-h-0 min-w-0 flex-col", !slim && "flex-1", className)}
    >
      <div
        className={clsx(
          "no-print flex shrink-0 items-baseline border-b border-hair text-sm max-desk:flex-wrap",
          slim ? "px-3.5 pt-1.5" : "gap-4 px-2",
        )}
      >
        <Tabs.List
          aria-label={label}
          className={clsx("flex shrink-0 max-desk:max-w-full max-desk:shrink max-desk:overflow-x-auto", slim && "gap-3")}
        >
          {views.map(({ id, label: name }) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className={clsx(
                "whitespace-nowrap text-soft hover:text-ink data-[state=active]:border-b-2 data-[state=active]:border-accent data-[state=active]:font-bold data-[state=active]:text-ink",
                slim ? "pb-0.5" : "px-2.5 py-1",
              )}
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {tools}
      </div>
      <Tabs.Content value={view} tabIndex={-1} className="flex min-h-0 min-w-0 flex-1 flex-col">
        <PaneBoundary what={views.find(({ id }) => id === view)?.label ?? label} on={view}>
          {children}
        </PaneBoundary>
      </Tabs.Content>
    </Tabs.Root>
  );
}
