/** "6.2° late", the trade's way of writing a deviation. */
export function late(deg: number, digits = 1): string {
  const size = Math.abs(deg).toFixed(digits);
  if (Number(size) === 0) return `${size}°`;
  return `${size}° ${deg > 0 ? "late" : "early"}`;
}

export function percent(share: number): string {
  if (share > 0 && share < 0.01) return "<1\u00a0%";
  if (share < 1 && share > 0.99) return ">99\u00a0%";
  return `${Math.round(share * 100)}\u00a0%`;
}

export function hours(minutes: number): string {
  const whole = Math.round(minutes / 5) * 5;
  return whole < 60
    ? `${whole}\u00a0min`
    : `${Math.floor(whole / 60)}\u00a0h\u00a0${String(whole % 60).padStart(2, "0")}`;
}

export function clock(iso: string): string {
  const when = new Date(iso);
  const today = new Date().toDateString() === when.toDateString();
  const time = when.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return today
    ? time
    : `${when.toLocaleDateString("en-GB", { day: "2-digit", month: "short" })} ${time}`;
}

/** The server's choices as a control takes them. */
export function offered(choices: readonly { code: string; words: string }[] = []) {
  return choices.map(({ code, words }) => ({ value: code, label: words }));
}
