/** A figure as it was typed, with a comma or a point, a sign and blanks; null for anything else. */
export function figureOf(typed: string): number | null {
  const plain = typed.trim().replace(",", ".").replace("−", "-");
  return /^[+-]?\d+(\.\d+)?$/.test(plain) ? Number(plain) : null;
}

/** A figure of degrees, with or without its sign. */
export function degreesOf(typed: string): number | null {
  return figureOf(typed.replace(/°|deg(rees)?\s*$/i, ""));
}

/** What is wrong with a figure that was typed; nothing while nothing is typed. */
export function wrongFigure(typed: string, low = -Infinity, high = Infinity): string | undefined {
  if (!typed.trim()) return undefined;
  const value = figureOf(typed);
  if (value === null) return `Read “${typed.trim()}”. Expected: a number.`;
  if (value < low || value > high) return `Read ${value}. Expected: ${low} to ${high}.`;
  return undefined;
}
