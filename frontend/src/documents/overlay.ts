/** What is shown while entries wait to be saved: the document as it was saved, with them laid over. */
import type { Entry } from "./unsaved";

type Row = { id: string };
type Loose = Record<string, unknown>;

/** A survey with the sections and rows that wait. */
export function withEntries<T extends object>(survey: T, entries: Entry[]): T {
  let shown = survey as Loose;
  for (const { change } of entries) {
    if (change.type === "set_section") {
      const name = String(change.section);
      const fields = change.fields as Loose | null;
      shown = { ...shown, [name]: fields && { ...(shown[name] as Loose), ...fields } };
    } else if (change.type === "put_rows") {
      const name = String(change.list);
      shown = { ...shown, [name]: put((shown[name] ?? []) as Row[], change.rows as Row[]) };
    } else if (change.type === "remove_rows") {
      const name = String(change.list);
      const gone = change.ids as string[];
      shown = { ...shown, [name]: (shown[name] as Row[]).filter((row) => !gone.includes(row.id)) };
    }
  }
  return shown as T;
}

function put(rows: Row[], given: Row[]): Row[] {
  const known = new Set(rows.map((row) => row.id));
  const merged = rows.map((row) => ({ ...row, ...given.find((g) => g.id === row.id) }));
  return [...merged, ...given.filter((row) => !known.has(row.id) && "name" in row)];
}

/** Parts with the figures that wait. */
export function partsWithEntries<T extends Row>(parts: T[], entries: Entry[]): T[] {
  const figures = new Map<string, Loose>();
  for (const { change } of entries) {
    if (change.type !== "set_part") continue;
    const part = String(change.part);
    figures.set(part, { ...figures.get(part), ...(change.fields as Loose) });
  }
  return figures.size ? parts.map((part) => ({ ...part, ...figures.get(part.id) })) : parts;
}
