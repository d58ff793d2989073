/** The lanes of a plan's time line and what each of their spans says. */
import type { Schemas } from "@/api/client";

import type { Plan } from "./dayStore";

export type LaneId = "engine" | "shore" | "living" | "sky" | "wind" | "boat" | "temperature";

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
  /** A new span's own fields. */
  fresh: (profiles: string[]) => Record<string, unknown>;
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
    fresh: (profiles) => ({ profile: profiles[0] }),
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
];

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
