/** Lines over the time of a day, scaled to where they are drawn. */

export const CURVE = 92;

export interface Curve {
  title: string;
  y: number;
  write: (value: number) => string;
  lines: { name: string; n: number; path: string; column: number[] }[];
  grid: { y: number; words: string }[];
}

export interface Wanted {
  title: string;
  columns: [string, number[]][];
  write: (value: number) => string;
  /** Lowest and highest value shown; as the lines need it where none is given. */
  range?: [number, number];
}

/** Entries by part, in the order of the scheme whatever the order of the data. */
export function inOrder<T>(table: Record<string, T>, names: Record<string, string>): [string, T][] {
  const place = new Map(Object.keys(names).map((id, n) => [id, n] as const));
  const at = (id: string) => place.get(id) ?? place.size;
  return Object.entries(table).sort(([a], [b]) => at(a) - at(b));
}

/** A range with round ends around some values. */
export function rangeOf(values: number[]): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) {
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  const step = high - low > 40 ? 20 : high - low > 8 ? 5 : 0.5;
  [low, high] = [Math.floor(low / step) * step, Math.ceil(high / step) * step];
  return [low, high === low ? low + step : high];
}

/** The lines of one quantity in a box whose top is at ``y``, over places ``xs`` along the axis. */
export function curveOf(wanted: Wanted, y: number, xs: string[]): Curve {
  const { title, columns, write } = wanted;
  const [low, high] = wanted.range ?? rangeOf(columns.flatMap(([, column]) => column));
  const up = (value: number) => y + CURVE - ((value - low) / (high - low)) * CURVE;
  return {
    title,
    y,
    write,
    grid: [low, (low + high) / 2, high].map((value) => ({ y: up(value), words: write(value) })),
    lines: columns.map(([name, column], n) => ({
      name,
      n,
      column,
      path: column.map((v, i) => `${i ? "L" : "M"}${xs[i]} ${up(v).toFixed(1)}`).join(""),
    })),
  };
}

/** The last place in a rising column whose value is not after another one. */
export function lastNotAfter(column: number[], value: number): number {
  let [low, high] = [0, column.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((column[middle] ?? 0) <= value) low = middle;
    else high = middle - 1;
  }
  return low;
}
