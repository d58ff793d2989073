/** A day, its plan and a study, as the server sends them. */
import type { Sheet, Study } from "../dayStore";

export const PLAN = {
  version: 1,
  name: "Day trip",
  hours: 24,
  clock_h: 8,
  seed: 1,
  crank_s: 3,
  month: null,
  engine: [{ start_h: 1, end_h: 2, rpm: 1800, engine: "all" }],
  shore: [],
  living: [{ start_h: 0, end_h: 10, profile: "at_anchor" }],
  sky: [],
  wind: [],
  boat: [],
  temperature: [],
  moves: [
    { at_h: 1, switch: "selector", position: "both", through: null, occasion: "start" },
    { at_h: 2, switch: "selector", position: "2", through: "off", occasion: "stop" },
  ],
  emergency: {},
  soc: {},
} as never;

const event = (at_s: number, kind: string, words: string, more = {}) => ({
  at_s,
  kind,
  part: "starter",
  words,
  to: "",
  value: null,
  unit: "",
  soc: { house_bank: 0.583 },
  charges: [],
  ...more,
});

export function sheet(changes = {}): Sheet {
  return {
    plan: PLAN,
    report: {
      rank: "stranded",
      starts: [
        { at_s: 3600, started: true, volts_v: 10.42, limit_v: 9.6, engine: "first" },
        { at_s: 80000, started: false, volts_v: 8.71, limit_v: 9.6, engine: "first" },
      ],
      hours: 24,
      banks: [
        {
          bank: "house_bank",
          begin_soc: 0.58,
          lowest_soc: 0.516,
          lowest_at_s: 86400,
          end_soc: 0.52,
          in_ah: 25,
          out_ah: 15,
          was_charged: true,
        },
      ],
      worst_v: { panel: 11.32, pump: 12.01 },
      unmet: [
        { item: "panel.alarm", name: "CO alarm", hours: 1.04, wanted_h: 24, dead_h: 1.04 },
        { item: "panel.light", name: "Light", hours: 0.3, wanted_h: 4, dead_h: 0 },
      ],
      stage_h: { solar: { bulk: 3.2, float: 12.6 } },
      joined: [{ banks: ["engine_bank", "house_bank"], hours: 15.6 }],
      verdict: [
        { tone: "good", words: "The relay rests.", fix: "" },
        { tone: "bad", words: "The engine does not start.", fix: "Keep a bank for it." },
      ],
    },
    ledger: {
      given: { solar: { charge_ah: 40, energy_wh: 520 } },
      taken: { panel: { charge_ah: 30, energy_wh: 380 } },
      banks: {
        house_bank: {
          in_ah: 25,
          out_ah: 15,
          in_wh: 320,
          out_wh: 190,
          lost_ah: 1.2,
          lost_wh: 30,
          more_ah: 8.8,
          more_wh: 100,
        },
      },
      gear: {},
      heat: { banks_wh: 30, cables_wh: 4, gear_wh: 6 },
      converted_ah: 0,
      residual: 0.00002,
    },
    flows: [
      { start: "solar", end: "house_bank", charge_ah: 25 },
      { start: "solar", end: "loads", charge_ah: 15 },
      { start: "house_bank", end: "loads", charge_ah: 15 },
      { start: "loads", end: "panel", charge_ah: 30 },
      { start: "house_bank", end: "lost", charge_ah: 1.2 },
    ],
    events: [
      event(3600, "start", "Engine starts: 10.4 V at the starter"),
      event(50000, "sun", "Sunset", { to: "down" }),
      event(80000, "start", "Engine does not start: 8.7 V", { to: "failed" }),
    ],
    strips: [
      {
        kind: "relay",
        part: "relay",
        name: "Combining relay",
        rest: "open",
        pieces: [
          { start_s: 0, end_s: 4000, state: "open" },
          { start_s: 4000, end_s: 60000, state: "closed" },
          { start_s: 60000, end_s: 86400, state: "open" },
        ],
      },
    ],
    series: {
      at_s: [0, 3600, 43200, 86400],
      soc: { house_bank: [0.58, 0.57, 0.7, 0.52] },
      volts_v: { house_bank: [12.4, 12.3, 13.6, 12.1] },
      bank_a: { house_bank: [-3, -4, 9, -2] },
      source_a: { solar: [0, 2, 9, 0], alternator: [0, 0, 0, 0] },
      loads_a: [3, 4, 2, 2],
      warmth_c: { alternator: [20, 20, 60, 20] },
      source_v: { solar: [12.4, 12.3, 13.6, 12.1], alternator: [null, 12.3, 14.2, 12.1] },
    },
    steps: 4,
    ...changes,
  } as unknown as Sheet;
}

export const study = (changes: Partial<Study> = {}): Study =>
  ({
    id: "s-1",
    kind: "sweep",
    status: "done",
    variant: "v-1",
    plan: "p-1",
    ask: {},
    done: 2,
    of: 2,
    progress: 1,
    problem: null,
    stale: false,
    ...changes,
  }) as Study;

export const NAMES = { house_bank: "House bank", solar: "Solar", panel: "House panel" };
