import { notFound } from "next/navigation";
import { FeedsScreen } from "@/ui/feeds/FeedsScreen";
import { LoadsScreen } from "@/ui/loads/LoadsScreen";
import { ReturnsScreen } from "@/ui/returns/ReturnsScreen";
import { SheetScreen } from "@/ui/sheet/SheetScreen";
import { SourcesScreen } from "@/ui/sources/SourcesScreen";

const SCREENS = { loads: LoadsScreen, sources: SourcesScreen, feeds: FeedsScreen, returns: ReturnsScreen, sheet: SheetScreen };

export default async function StepPage({ params }: { params: Promise<{ step: string }> }) {
  const { step } = await params;
  const Screen = Object.hasOwn(SCREENS, step) ? SCREENS[step as keyof typeof SCREENS] : null;
  if (!Screen) notFound();
  return <Screen />;
}
