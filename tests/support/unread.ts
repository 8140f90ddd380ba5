import type { Judged } from "@/core/bringup/judge";
import { USUAL_KIT } from "@/core/bringup/types";

/** A bring-up without stages: sheets of random machines are about their lists, and readings of them are tried elsewhere. */
export const UNREAD: Judged = { bringUp: { stages: [], kit: USUAL_KIT }, stages: [], others: [] };
