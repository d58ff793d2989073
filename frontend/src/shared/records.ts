/** A copy of a record with one entry set, or taken out when there is no value. */
export function withEntry<T>(
  record: Record<string, T> | null | undefined,
  key: string,
  value: T | null,
): Record<string, T> {
  const others = Object.entries(record ?? {}).filter(([name]) => name !== key);
  return Object.fromEntries(value === null ? others : [...others, [key, value]]);
}
