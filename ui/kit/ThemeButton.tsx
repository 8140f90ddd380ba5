"use client";
import { useTheme } from "next-themes";

export function ThemeButton({ className = "px-1.5 py-1 text-xs text-soft hover:text-ink" }: { className?: string }) {
  const { resolvedTheme, setTheme } = useTheme();
  return (
    <button type="button" className={className} onClick={() => setTheme(resolvedTheme === "dark" ? "light" : "dark")}>
      <span className="hidden dark:inline">Light theme</span>
      <span className="dark:hidden">Dark theme</span>
    </button>
  );
}
