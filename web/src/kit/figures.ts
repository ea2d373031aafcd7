/** A figure as it was typed, with a comma or a point, a sign and blanks; null for anything else. */
export function figureOf(typed: string): number | null {
  const plain = typed.trim().replace(",", ".").replace("−", "-");
  return /^[+-]?\d+(\.\d+)?$/.test(plain) ? Number(plain) : null;
}

/** What is wrong with a figure that was typed; nothing while nothing is typed. */
export function wrongFigure(typed: string, low = -Infinity, high = Infinity): string | undefined {
  if (!typed.trim()) return undefined;
  const value = figureOf(typed);
  if (value === null) return `Read “${typed.trim()}”. Expected: a number.`;
  if (value < low || value > high) {
    const range = high === Infinity ? `${low} or more` : `${low} to ${high}`;
    return `Read ${value}. Expected: ${range}.`;
  }
  return undefined;
}
