/** The lanes of a plan's time line and what each of their spans says. */
import type { Schemas } from "@/api/client";

import type { Plan } from "./dayStore";

export type LaneId =
  "engine" | "shore" | "living" | "sky" | "wind" | "boat" | "temperature" | "loads" | "sources_off";

export interface Span {
  start_h: number;
  end_h: number;
  [field: string]: unknown;
}

export interface Lane {
  id: LaneId;
  name: string;
  one: string;
  /** What a span says on the line. */
  words: (span: Span) => string;
  /** The figure that a span carries, if it is a number. */
  figure?: { field: string; label: string; unit: string };
  /** Each item or source has a row of its own; the field that names it. */
  own?: "item" | "source";
  /** A new span's own fields. */
  fresh: (known: Known) => Record<string, unknown>;
}

/** What a new span may name. */
export interface Known {
  profiles: string[];
  items: string[];
  sources: string[];
}

export const LANES: Lane[] = [
  {
    id: "engine",
    name: "Engine",
    one: "an engine run",
    words: (s) => `${Number(s["rpm"] ?? 1400)} rpm`,
    figure: { field: "rpm", label: "Speed", unit: "rpm" },
    fresh: () => ({ rpm: 1800 }),
  },
  { id: "shore", name: "Shore lead", one: "a time on shore", words: () => "in", fresh: () => ({}) },
  {
    id: "living",
    name: "Life aboard",
    one: "a time aboard",
    words: (s) => String(s["profile"]),
    fresh: (known) => ({ profile: known.profiles[0] }),
  },
  {
    id: "sky",
    name: "Sky",
    one: "a sky",
    words: (s) => String(s["sky"]),
    fresh: () => ({ sky: "dull" }),
  },
  {
    id: "wind",
    name: "Wind",
    one: "a wind",
    words: (s) => `${Number(s["wind_kn"])} kn`,
    figure: { field: "wind_kn", label: "Wind", unit: "kn" },
    fresh: () => ({ wind_kn: 12 }),
  },
  {
    id: "boat",
    name: "Boat speed",
    one: "a speed",
    words: (s) => `${Number(s["boat_kn"])} kn`,
    figure: { field: "boat_kn", label: "Speed through the water", unit: "kn" },
    fresh: () => ({ boat_kn: 5 }),
  },
  {
    id: "temperature",
    name: "Temperature",
    one: "a temperature",
    words: (s) => `${Number(s["temperature_c"])} °C`,
    figure: { field: "temperature_c", label: "Temperature of the banks", unit: "°C" },
    fresh: () => ({ temperature_c: 5 }),
  },
  {
    id: "loads",
    name: "Load",
    one: "a load that runs",
    words: () => "on",
    own: "item",
    fresh: (known) => ({ item: known.items[0] }),
  },
  {
    id: "sources_off",
    name: "Source off",
    one: "a source that is off",
    words: () => "off",
    own: "source",
    fresh: (known) => ({ source: known.sources[0] }),
  },
];

export interface LaneRow {
  lane: Lane;
  /** Which item or source, where each has a row of its own. */
  own: string | null;
  /** Numbers of its spans in the lane. */
  spans: number[];
}

/** Rows of the time line: one for each lane, or one for each item or source of it. */
export function laneRows(plan: Plan, lanes: Lane[]): LaneRow[] {
  return lanes.flatMap((lane): LaneRow[] => {
    const spans = spansOf(plan, lane.id);
    const field = lane.own;
    if (!field) return [{ lane, own: null, spans: spans.map((_, n) => n) }];
    const names = [...new Set(spans.map((span) => String(span[field])))];
    return names.map((own) => ({
      lane,
      own,
      spans: spans.flatMap((span, n) => (String(span[field]) === own ? [n] : [])),
    }));
  });
}

export type LeadMove = Schemas["LeadMove"];

export function withLeads(plan: Plan, leads: LeadMove[]): Plan {
  return { ...plan, leads: [...leads].sort((a, b) => a.at_h - b.at_h) };
}

export const spansOf = (plan: Plan, lane: LaneId): Span[] =>
  ((plan[lane] ?? []) as unknown as Span[]).map((span) => ({ ...span }));

export function withSpans(plan: Plan, lane: LaneId, spans: Span[]): Plan {
  const sorted = [...spans].sort((a, b) => a.start_h - b.start_h);
  return { ...plan, [lane]: sorted } as Plan;
}

/** The longest gap of a lane, for a new span to stand in; the end of the plan where there is none. */
export function roomIn(plan: Plan, lane: LaneId): Pick<Span, "start_h" | "end_h"> {
  const hours = plan.hours ?? 24;
  let best = { start_h: Math.max(0, hours - 1), end_h: hours };
  let widest = 0;
  let from = 0;
  for (const span of [...spansOf(plan, lane), { start_h: hours, end_h: hours }]) {
    const wide = span.start_h - from;
    if (wide > widest) {
      widest = wide;
      const middle = from + wide / 4;
      best = { start_h: round(middle), end_h: round(middle + Math.min(wide / 2, 2)) };
    }
    from = Math.max(from, span.end_h);
  }
  return best;
}

const FIVE_MINUTES = 12;
export const round = (hour: number) => Math.round(hour * FIVE_MINUTES) / FIVE_MINUTES;

export type Move = Schemas["Move"];

export function withMoves(plan: Plan, moves: Move[]): Plan {
  return { ...plan, moves: [...moves].sort((a, b) => a.at_h - b.at_h) };
}
