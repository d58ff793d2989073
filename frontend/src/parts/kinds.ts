/** Every kind of part with the figures asked of it, as the engine states them (`./strom fix`). */
import sheets from "./kinds.json";

export interface Figure {
  name: string;
  label: string;
  sort: "number" | "numbers" | "curve" | "pick" | "yes_no" | "part" | "marks";
  unit?: string;
  minimum?: number;
  maximum?: number;
  whole?: boolean;
  choices?: { value: string | number | boolean; title: string }[];
  /** The kind of part that it names. */
  refers_to?: string;
  /** Nobody knows it yet: it is to find out. */
  nullable?: boolean;
  /** It may stay empty, and nothing is missing then. */
  optional?: boolean;
  /** Has a usual value that seldom needs a look. */
  seldom?: boolean;
  /** Asked aboard petrol boats. */
  petrol_only?: boolean;
  /** What each point of a curve has. */
  columns?: { name: string; unit: string }[];
}

export interface FoundAs {
  words: string;
  name: string;
  note: string;
}

export interface KindSheet {
  kind: string;
  word: string;
  group: string;
  found?: FoundAs;
  figures: Figure[];
}

export const KIND_SHEETS = sheets.kinds as unknown as KindSheet[];
/** Lists of choices outside the parts, by their name. */
export const CHOICES = sheets.choices;
const BY_KIND = new Map(KIND_SHEETS.map((sheet) => [sheet.kind, sheet]));
/** Groups of kinds in the order in which a boat is walked through. */
export const GROUPS = [...new Set(KIND_SHEETS.map((sheet) => sheet.group))];

export const figuresOf = (kind: string): Figure[] => BY_KIND.get(kind)?.figures ?? [];
export const kindWord = (kind: string): string => BY_KIND.get(kind)?.word ?? kind;
export const groupOf = (kind: string): string => BY_KIND.get(kind)?.group ?? "";
export const foundAs = (kind: string): FoundAs =>
  BY_KIND.get(kind)?.found ?? { words: kind, name: kind, note: "" };
