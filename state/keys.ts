/** A key that nobody else makes: 24 letters and digits. Where the page is not on a secure origin there is no UUID to be had. */
export function freshKey(): string {
  return [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}
