import { flushPromises } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { api } from "@/api/client";
import { ready, show } from "@/shared/tests/stage";

import { clock, readClock, ticks, writeClock } from "./clock";
import { useDay, type Sheet, type Study } from "./dayStore";
import EventsPart from "./EventsPart.vue";
import LedgerPart from "./LedgerPart.vue";
import PlanPart from "./PlanPart.vue";
import { roomIn, spansOf, withSpans } from "./planEdits";
import SlipPart from "./SlipPart.vue";
import TimeLine from "./TimeLine.vue";
import VerdictPart from "./VerdictPart.vue";

const PLAN = {
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

function sheet(changes = {}): Sheet {
  return {
    plan: PLAN,
    report: {
      rank: "stranded",
      starts: [
        { at_s: 3600, started: true, volts_v: 10.42, limit_v: 9.6, engine: "first" },
        { at_s: 80000, started: false, volts_v: 8.71, limit_v: 9.6, engine: "first" },
      ],
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
      cables_wh: 4,
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
      warmth_c: {},
    },
    steps: 4,
    ...changes,
  } as unknown as Sheet;
}

const study = (changes: Partial<Study> = {}): Study =>
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

const NAMES = { house_bank: "House bank", solar: "Solar", panel: "House panel" };

beforeEach(() => {
  setActivePinia(createPinia());
  document.body.innerHTML = "";
});

describe("clock", () => {
  it("counts days from the first, and reads what it writes", () => {
    expect(clock(8, 0, 12)).toBe("08:00");
    expect(clock(17, 9.5 * 3600, 50)).toBe("day 2, 02:30");
    for (const hour of [0, 6.5, 16, 40.25]) {
      expect(readClock(writeClock(hour, 17), 17)).toBeCloseTo(hour);
    }
    expect(readClock("06:00", 17)).toBe(13); // the next morning
    expect(readClock("day 2, 6.15", 17)).toBeCloseTo(13.25);
    for (const wrong of ["", "noon", "25:00", "1 08:75"]) expect(readClock(wrong, 8)).toBeNull();
  });

  it("sets few and round ticks", () => {
    expect(ticks(17, 50, 8).map((t) => t.words)).toEqual(["day 2", "12:00", "day 3", "12:00"]);
    expect(ticks(8, 6, 8).map((t) => t.hour)).toEqual([0, 1, 2, 3, 4, 5, 6]);
  });
});

describe("the day", () => {
  it("shows the gravest of the verdict first, with what would mend it", () => {
    const { words } = show(VerdictPart, { sheet: sheet() });
    expect(words()).toContain("▲ The engine does not start");
    expect(words().indexOf("Keep a bank for it.")).toBeLessThan(words().indexOf("The relay rests"));
  });

  it("draws strips, curves and starts, and points by key and by hand", async () => {
    const { found, words } = show(TimeLine, { sheet: sheet(), at: 43200, names: NAMES });
    // The values at the moment that is pointed at; a source that gives nothing is left out.
    for (const text of ["House bank", "70 %", "13.60 V", "9.0 A", "8.71 V ✗ fails", "closed"]) {
      expect(words()).toContain(text);
    }
    expect(words()).not.toContain("alternator");
    const line = found.get("svg");
    expect(line.attributes("aria-valuetext")).toBe("day 1, 20:00");
    await line.trigger("keydown", { key: "ArrowRight" });
    await line.trigger("keydown", { key: "End" });
    expect(found.emitted("point")).toEqual([[43800], [86400]]);
  });

  it("lists events that lead to their moment", async () => {
    ready();
    const day = useDay();
    day.day = { sheet: sheet() } as never;
    const point = vi.spyOn(day, "point").mockResolvedValue();
    const { words, press } = show(EventsPart, { sheet: sheet() });
    expect(words()).toContain("day 1, 09:00");
    expect(words()).toContain("house_bank 58 %");
    await press("does not start");
    expect(point).toHaveBeenCalledWith(80000);
  });

  it("draws the ledger and says how well it closes", () => {
    const { found, words } = show(LedgerPart, { sheet: sheet(), names: NAMES });
    expect(words()).toContain("closes within 0.002 %");
    expect(found.findAll("path.band")).toHaveLength(5);
    expect(words()).toContain("25 Ah · 320 Wh");
  });
});

describe("the plan", () => {
  it("finds room for a new span and keeps spans in order", () => {
    const room = roomIn(PLAN, "engine");
    expect(room.start_h).toBeGreaterThanOrEqual(2);
    const spans = [...spansOf(PLAN, "engine"), { start_h: 0, end_h: 0.5 }];
    expect(withSpans(PLAN, "engine", spans).engine?.map((s) => s.start_h)).toEqual([0, 1]);
  });

  it("keeps what is typed, makes a turned switch the plan's own, and shows what is refused", async () => {
    ready();
    const day = useDay();
    const keep = vi.spyOn(day, "keep").mockResolvedValue(true);
    const kept = { id: "p-1", school: "a", revision: 3, document: PLAN, for_variant: PLAN };
    const { words, type, press } = show(PlanPart, { kept: { ...kept, problem: null, errors: [] } });
    await type("Lasts", "30");
    expect(keep.mock.calls[0]?.[0]).toMatchObject({ hours: 30, name: "Day trip" });
    expect(keep.mock.calls[0]?.[1]).toBe("a");
    await press("1 10:00");
    await type("At (day", "1 10:30");
    expect(keep.mock.calls[1]?.[0].moves?.[1]).toMatchObject({ at_h: 2.5, occasion: "by_hand" });
    expect(keep.mock.calls[1]?.[1]).toBe("own");
    await type("At (day", "noon");
    expect(keep).toHaveBeenCalledTimes(2);
    day.refused = { detail: "no", errors: ["engine[1]: begins too early"] };
    await flushPromises();
    expect(words()).toContain("engine[1]: begins too early");
  });
});

describe("the slip test", () => {
  it("lists consequences gravest first, hides harmless ones, and leads to their day", async () => {
    ready();
    const day = useDay();
    day.asked = { plan: "p-1", school: null, case: null };
    day.studies = [study()];
    const one = (key: string, rank: string, story: string) => ({
      key,
      kind: "omitted",
      words: `At 09:00 nobody turns ${key}.`,
      status: "done",
      problem: null,
      consequence: { rank, weight: 1, story },
      outcome: { weakest_v: 8.7, lowest_engine_soc: 0.44 },
    });
    vi.spyOn(api, "GET").mockResolvedValue({
      data: {
        study: study(),
        planned: null,
        cases: [one("a", "stranded", "It does not start."), one("b", "none", "Nothing follows.")],
      },
      response: new Response(),
    } as never);
    const askCase = vi.spyOn(day, "askCase").mockResolvedValue();
    const { found, words, press } = show(SlipPart);
    await flushPromises();
    expect(words()).toContain("▲ Stranded");
    expect(words()).toContain("engine bank 44 %");
    expect(words()).not.toContain("Nothing follows.");
    await press("Show 1 from which");
    expect(words()).toContain("Nothing follows.");
    await press("nobody turns a");
    expect(found.emitted("day")).toHaveLength(1);
    expect(askCase).toHaveBeenCalledWith("a");
  });
});

describe("the store", () => {
  it("asks after a study until it is settled, and keeps what was refused to be mended", async () => {
    ready();
    const day = useDay();
    const answers = [study({ status: "running" }), study({ status: "done" })];
    vi.spyOn(api, "GET").mockImplementation(
      async () => ({ data: answers.shift(), response: new Response() }) as never,
    );
    const told: string[] = [];
    const settled = await day.untilSettled(study({ status: "waiting" }), (s) =>
      told.push(s.status),
    );
    expect([settled.status, told]).toEqual(["done", ["running", "done"]]);
    day.plans = { plans: [{ id: "p-1", school: "a", revision: 1 }] } as never;
    day.asked = { plan: "p-1", school: null, case: null };
    const problem = { status: 422, detail: "no", errors: [{ path: "hours", message: "too long" }] };
    vi.spyOn(api, "PUT").mockResolvedValue({
      error: problem,
      response: new Response(null, { status: 422 }),
    } as never);
    expect(await day.keep(PLAN, "a")).toBe(false);
    expect(day.refused?.errors).toEqual(["hours: too long"]);
  });
});
