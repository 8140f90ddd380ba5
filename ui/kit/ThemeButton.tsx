"use client";
import { useTheme } from "next-themes";

/** The theme that is not shown now, and the way to it. */
export function useOtherTheme(): { label: string; act: () => void } {
  const { resolvedTheme, setTheme } = useTheme();
  const dark = resolvedTheme === "dark";
  return { label: dark ? "Light theme" : "Dark theme", act: () => setTheme(dark ? "light" : "dark") };
}

export function ThemeButton({ className = "px-1.5 py-1 text-xs text-soft hover:text-ink" }: { className?: string }) {
  const { act } = useOtherTheme();
  return (
    <button type="button" className={className} onClick={act}>
      <span className="hidden dark:inline">Light theme</span>
      <span className="dark:hidden">Dark theme</span>
    </button>
  );
}
