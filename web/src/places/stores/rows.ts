/** A line of a list: its cells in the order of the columns. */
export type Row = string[];

/** The rows with one cell typed anew. */
export function withRow(rows: readonly Row[], line: number, column: number, value: string): Row[] {
  return rows.map((row, i) => (i === line ? row.map((c, j) => (j === column ? value : c)) : row));
}

/** How many lines are not as they were kept, and how many kept ones are no more; each counts once. */
export function changesOf(kept: readonly Row[], now: readonly Row[]) {
  const left = new Map<string, number>();
  const key = (row: Row) => JSON.stringify(row.map((cell) => cell.trim()));
  for (const row of kept) left.set(key(row), (left.get(key(row)) ?? 0) + 1);
  let added = 0;
  for (const row of now) {
    const count = left.get(key(row)) ?? 0;
    if (count) left.set(key(row), count - 1);
    else added += 1;
  }
  const gone = [...left.values()].reduce((sum, count) => sum + count, 0);
  return { added, gone };
}
