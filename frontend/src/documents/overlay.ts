/** What is shown while entries wait to be saved: the document as it was saved, with them laid over. */
import type { DocumentEntry } from "./unsaved";

type Row = { id: string };
type Loose = { [name: string]: unknown };

/** A survey with the sections and rows that wait. */
export function withEntries<T extends object>(survey: T, entries: DocumentEntry[]): T {
  let shown = survey as Loose;
  for (const { change } of entries) {
    if (change.type === "set_section") {
      const { section: name, fields } = change;
      shown = { ...shown, [name]: fields && { ...(shown[name] as Loose), ...fields } };
    } else if (change.type === "put_rows") {
      const { list: name, rows } = change;
      shown = { ...shown, [name]: put((shown[name] ?? []) as Row[], rows as unknown as Row[]) };
    } else if (change.type === "remove_rows") {
      const { list: name, ids } = change;
      shown = { ...shown, [name]: (shown[name] as Row[]).filter((row) => !ids.includes(row.id)) };
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
export function partsWithEntries<T extends Row>(parts: T[], entries: DocumentEntry[]): T[] {
  const figures = new Map<string, Loose>();
  for (const { change } of entries) {
    if (change.type !== "set_part") continue;
    figures.set(change.part, { ...figures.get(change.part), ...change.fields });
  }
  return figures.size ? parts.map((part) => ({ ...part, ...figures.get(part.id) })) : parts;
}
