/** Version of everything that judges: a hash of core's sources and tables, tests left out. */
export function rulesVersion(): string;
