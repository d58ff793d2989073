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

/** A number one step up or down: of its last digit as written, or a tenth of its first one where
 * that is finer; whole numbers by one. It stays within the limits of its field. */
export function stepped(
  value: number,
  up: 1 | -1,
  limits: { minimum?: number; maximum?: number; whole?: boolean },
): number {
  const written = writeNumber(value).split(".")[1]?.length ?? 0;
  const tenth = 1 - Math.floor(Math.log10(Math.abs(value) || 1));
  const digits = limits.whole ? 0 : Math.max(written, tenth, 0);
  const next = Number((value + up * 10 ** -digits).toFixed(digits));
  return Math.min(limits.maximum ?? next, Math.max(limits.minimum ?? next, next));
}

/** Rows of numbers: one row where each is one number, else rows with a semicolon between. */
export function readRows(text: string, width: number): { rows: number[][] } | { wrong: string } {
  const words = (row: string) => row.trim().split(/\s+/).filter(Boolean);
  const parts = width === 1 ? words(text).map((word) => [word]) : text.split(";").map(words);
  const rows = parts.filter((row) => row.length).map((row) => row.map(readNumber));
  const wrong = rows.flat().find((read) => "wrong" in read);
  if (wrong && "wrong" in wrong) return wrong;
  const short = rows.findIndex((row) => row.length !== width);
  if (short >= 0) return { wrong: `Row ${short + 1} needs ${width} numbers` };
  if (!rows.length) return { wrong: "Numbers are needed here" };
  return { rows: rows.map((row) => row.map((read) => ("value" in read ? (read.value ?? 0) : 0))) };
}

export function writeRows(rows: number[][]): string {
  const between = rows.every((row) => row.length === 1) ? " " : "; ";
  return rows.map((row) => row.map(writeNumber).join(" ")).join(between);
}

/** What is wrong with a number by the limits of its field; nothing when it fits. */
export function outOfRange(
  value: number,
  limits: { minimum?: number; maximum?: number; whole?: boolean; unit?: string },
): string {
  const { minimum, maximum, whole, unit } = limits;
  const unitWord = unit && unit !== "0–1" ? ` ${unit}` : "";
  if (whole && !Number.isInteger(value)) return "A whole number is needed here";
  if (minimum !== undefined && value < minimum)
    return `At least ${writeNumber(minimum)}${unitWord}`;
  if (maximum !== undefined && value > maximum) return `At most ${writeNumber(maximum)}${unitWord}`;
  return "";
}
