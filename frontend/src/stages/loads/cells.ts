/** The cells of the load table: what each column shows, and what an entry in it changes. */
import type { Schemas } from "@/api/client";
import type { Fields } from "@/documents/saved";
import { readNumber, writeNumber } from "@/shared/fields/numbers";
import { withEntry } from "@/shared/records";

export type Item = Schemas["AuditItem"];
export type Profile = Schemas["Profile"];
export type Entry = { fields: Fields } | { wrong: string };

/** An entry that was not kept: what was typed, and why not. */
export interface Refused {
  text: string;
  why: string;
}

export interface Column {
  /** The name of the column in CSV. */
  id: string;
  title: string;
  unit?: string;
  picks?: string[];
  show: (item: Item) => string;
  read: (text: string, item: Item) => Entry;
}

function figure(id: "draw" | "duty", title: string, unit: string): Column {
  return {
    id,
    title,
    unit,
    show: (item) => writeNumber(item[id]),
    read: (text) => {
      const read = readNumber(text);
      if ("wrong" in read) return read;
      const fields: Fields =
        id === "duty" ? { duty: read.value ?? 1 } : { draw: read.value, basis: "typed" };
      return { fields };
    },
  };
}

/** `4` is hours, `6x10` is six times ten minutes, nothing is not used. */
export function readHours(text: string): { uses: Schemas["Hours"] | null } | { wrong: string } {
  const cleaned = text.trim().toLowerCase();
  if (cleaned === "") return { uses: null };
  const times = /^([\d.]+)\s*[x×*]\s*([\d.]+)(\s*min)?$/.exec(cleaned);
  if (times) return { uses: { times: Number(times[1]), minutes: Number(times[2]) } };
  const read = readNumber(cleaned.replace(/\s*h$/, ""));
  if ("wrong" in read) return { wrong: `${read.wrong}; or write times x minutes, as 6x10` };
  return { uses: { hours: read.value } };
}

export function writeHours(hours: Schemas["Hours"] | undefined): string {
  if (!hours) return "";
  if (hours.hours != null) return writeNumber(hours.hours);
  return `${writeNumber(hours.times)}x${writeNumber(hours.minutes)}`;
}

function hoursOf(profile: Profile): Column {
  return {
    id: `hours ${profile.id}`,
    title: profile.name,
    unit: "h, or 6x10 min",
    show: (item) => (item.standing ? "24" : writeHours(item.uses?.[profile.id])),
    read: (text, item) => {
      const read = readHours(text);
      if ("wrong" in read) return read;
      return { fields: { uses: withEntry(item.uses, profile.id, read.uses) } };
    },
  };
}

export function columnsFor(profiles: Profile[]): Column[] {
  return [
    {
      id: "name",
      title: "Load",
      show: (item) => item.name,
      read: (text) => (text.trim() ? { fields: { name: text } } : { wrong: "A load has a name" }),
    },
    figure("draw", "Draw", ""),
    {
      id: "unit",
      title: "in",
      picks: ["A", "W"],
      show: (item) => item.unit,
      read: (text) => ({ fields: { unit: text } }),
    },
    {
      id: "current",
      title: "DC/AC",
      picks: ["dc", "ac"],
      show: (item) => item.current,
      read: (text) => ({ fields: { current: text } }),
    },
    figure("duty", "Duty", "0–1"),
    ...profiles.map(hoursOf),
  ];
}

/** A pasted block as a table of its own: its columns named, its rows tied to those it lands on. */
export function pastedTable(block: string, columns: Column[], at: number, ids: string[]): string {
  const lines = block.replace(/\r/g, "").replace(/\n+$/, "").split("\n");
  const words = lines[0]?.toLowerCase().split("\t") ?? [];
  if (words.some((word) => ["load", "name", "item"].includes(word.trim()))) return block;
  const width = Math.max(...lines.map((line) => line.split("\t").length));
  const named = columns.slice(at, at + width).map((column) => column.id);
  const rows = lines.map((line, n) => {
    const cells = line.split("\t").slice(0, named.length);
    return [ids[n] ?? "", ...cells].join("\t");
  });
  return [["id", ...named].join("\t"), ...rows].join("\n");
}
