import { BRING_UP } from "./bring-up";
import { CONTACTS } from "./contacts";
import { FEEDS } from "./feeds";
import { LOADS } from "./loads";
import { RETURNS } from "./returns";
import { SOURCES } from "./sources";
import type { Case } from "./support";

/** Every rule at each of its limits. */
export const CASES: readonly Case[] = [...LOADS, ...SOURCES, ...FEEDS, ...CONTACTS, ...RETURNS, ...BRING_UP];
