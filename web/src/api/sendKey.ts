/** A key of its own for a change, as 32 hexadecimal digits; there without HTTPS too. */
export function sendKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}
