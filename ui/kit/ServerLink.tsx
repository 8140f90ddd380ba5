"use client";
import { useRouter } from "next/navigation";
import { type AnchorHTMLAttributes, useState } from "react";
import { toast } from "sonner";
import { answers } from "@/state/api";

/** A link to a page the server makes. While it does not answer, this page stays: there would be nothing in its place. */
export function ServerLink({ href, children, ...rest }: AnchorHTMLAttributes<HTMLAnchorElement> & { href: string }) {
  const router = useRouter();
  const [asking, setAsking] = useState(false);
  return (
    <a
      {...rest}
      href={href}
      aria-busy={asking || undefined}
      onClick={async (event) => {
        // With a key held the browser opens another tab: this page stays anyway.
        if (event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0) return;
        event.preventDefault();
        setAsking(true);
        const there = await answers();
        setAsking(false);
        if (there) router.push(href);
        else toast.error("The Node Ledger server does not answer, so this page stays open. Start it again and try once more.");
      }}
    >
      {children}
    </a>
  );
}
