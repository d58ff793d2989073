/** Ids of new rows: from their name, free in their list. */
export function freeId(name: string, taken: Iterable<string>): string {
  const used = new Set(taken);
  const plain = name
    .normalize("NFKD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^[_0-9]+|_+$/g, "")
    .slice(0, 32);
  const base = plain || "row";
  let id = base;
  for (let n = 2; used.has(id); n++) id = `${base}_${n}`;
  return id;
}
