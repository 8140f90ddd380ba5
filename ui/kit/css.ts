import type { CSSProperties } from "react";

/** A style that sets custom properties, which React's type of a style does not know. */
export function cssVariables(variables: Readonly<Record<`--${string}`, string>>, style: CSSProperties = {}): CSSProperties {
  return { ...style, ...variables };
}
