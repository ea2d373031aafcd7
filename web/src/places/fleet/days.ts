/** Hours as people say them: in thousands from ten thousand on. */
export function hoursWords(hours: number): string {
  const whole = String(Math.round(hours));
  return whole.length > 4 ? `${whole.slice(0, -3)}\u2009${whole.slice(-3)} h` : `${whole} h`;
}

const DAY = new Intl.DateTimeFormat("en-GB", { month: "short", year: "numeric" });

/** A day to come as month and year; ``none`` where there is none. */
export function dayWords(day: string | null, none: string): string {
  return day === null ? none : DAY.format(new Date(day));
}
