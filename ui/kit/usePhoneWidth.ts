"use client";
import { useSyncExternalStore } from "react";

/** Width below which a table of figures is shown as a list, px: a phone held upright. */
const PHONE_PX = 640;

const query = () => window.matchMedia(`(max-width: ${PHONE_PX - 0.02}px)`);

/** Whether the screen is a phone's. What the server sends is for a desk. */
export function usePhoneWidth(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const media = query();
      media.addEventListener("change", changed);
      return () => media.removeEventListener("change", changed);
    },
    () => query().matches,
    () => false,
  );
}
