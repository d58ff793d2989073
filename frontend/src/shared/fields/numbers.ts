/** Numbers as people type them: a point for the decimals, nothing for not known. */

export type Typed = { value: number | null } | { wrong: string };

export function readNumber(text: string): Typed {
  const cleaned = text.trim().replace("−", "-");
  if (cleaned === "") return { value: null };
  if (/^[-+]?(\d+\.?\d*|\.\d+)$/.test(cleaned)) return { value: Number(cleaned) };
  if (cleaned.includes(",")) {
    return { wrong: `Write a decimal point: ${cleaned.replace(",", ".")}` };
  }
  return { wrong: `“${cleaned}” is not a number` };
}

export function writeNumber(value: number | null | undefined): string {
  return value == null ? "" : String(Number(value.toPrecision(8)));
}
