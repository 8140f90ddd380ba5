"use client";
import { usePathname } from "next/navigation";
import { FeedsScreen } from "../feeds/FeedsScreen";
import { LoadsScreen } from "../loads/LoadsScreen";
import { ReturnsScreen } from "../returns/ReturnsScreen";
import { SheetScreen } from "../sheet/SheetScreen";
import { SourcesScreen } from "../sources/SourcesScreen";
import { isStep } from "./step-names";

const SCREENS = { loads: LoadsScreen, sources: SourcesScreen, feeds: FeedsScreen, returns: ReturnsScreen, sheet: SheetScreen };

/** The screen of the step in the address. All of them are here already: choosing another asks nothing of the server. */
export function StepScreen() {
  const step = usePathname().split("/").at(-1) ?? "";
  const Screen = SCREENS[isStep(step) ? step : "feeds"];
  return <Screen />;
}
