import type { ReactNode } from "react";
import { ServerLink } from "./ServerLink";
import { ThemeButton } from "./ThemeButton";

interface Props {
  title: string;
  /** What the page is for, beside the way back to the machines. */
  says: string;
  /** What can be done with the page as a whole. */
  children?: ReactNode;
}

/** The head of a page beside the workbench. */
export function PageHead({ title, says, children }: Props) {
  return (
    <header className="flex flex-wrap items-end gap-x-4 gap-y-2 border-b-2 border-ink pt-6 pb-3">
      <div className="min-w-0 flex-1 basis-[260px]">
        <h1 className="text-xl font-bold">{title}</h1>
        <p className="text-sm text-soft">
          <ServerLink href="/" className="hover:underline">
            All machines
          </ServerLink>{" "}
          · {says}
        </p>
      </div>
      <ThemeButton />
      {children}
    </header>
  );
}
