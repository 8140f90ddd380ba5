"use client";
import { usePathname } from "next/navigation";
import { useEffect } from "react";
import { BringUpScreen } from "../bringup/BringUpScreen";
import { FeedsScreen } from "../feeds/FeedsScreen";
import { LoadsScreen } from "../loads/LoadsScreen";
import { ReturnsScreen } from "../returns/ReturnsScreen";
import { SettleScreen } from "../settle/SettleScreen";
import { SheetScreen } from "../sheet/SheetScreen";
import { SourcesScreen } from "../sources/SourcesScreen";
import { isStep } from "./step-names";

/** Wait before they are fetched, ms: what is on the screen comes first. */
const AT_REST_MS = 3000;

const SCREENS = {
  loads: LoadsScreen,
  sources: SourcesScreen,
  feeds: FeedsScreen,
  returns: ReturnsScreen,
  settle: SettleScreen,
  "bring-up": BringUpScreen,
  sheet: SheetScreen,
};

/** Views that are loaded when they are first opened, fetched while the page is at rest: they open without the server then. */
async function fetchViews(): Promise<void> {
  await Promise.allSettled([
    import("../loads/ChartView"),
    import("../sources/RunView"),
    import("../sources/LossPane"),
    import("../feeds/FuseChart"),
  ]);
}

/** The screen of the step in the address. All of them are here already: choosing another asks nothing of the server. */
export function StepScreen() {
  const step = usePathname().split("/").at(-1) ?? "";
  useEffect(() => {
    const timer = setTimeout(() => void fetchViews(), AT_REST_MS);
    return () => clearTimeout(timer);
  }, []);
  const Screen = SCREENS[isStep(step) ? step : "feeds"];
  return <Screen />;
}
