import { clsx } from "clsx";
import type { ButtonHTMLAttributes } from "react";

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  kind?: "main" | "plain" | "quiet";
}

export function Button({ kind = "plain", className, type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      className={clsx(
        "px-3 py-1 text-sm whitespace-nowrap disabled:opacity-45",
        kind === "main" && "border border-ink bg-ink font-semibold text-paper",
        kind === "plain" && "border border-rule hover:border-ink",
        kind === "quiet" && "text-soft enabled:hover:text-ink",
        className,
      )}
      {...rest}
    />
  );
}
