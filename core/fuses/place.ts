/** Unfused conductor allowed from a battery, m: 7 in, and 72 in when sheathed and joined to the post. ABYC E-11, from memory. */
export const BARE_M = 0.18;
/** The same in a sheath or conduit, m (ABYC E-11, from memory). */
export const SHEATHED_M = 1.83;
