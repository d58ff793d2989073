/** A small survey, its audit and its bank plan, for the tests of the front end. */
import type { Schemas } from "@/api/client";

type Survey = Schemas["Survey"];

export function survey(changes: Partial<Survey> = {}): Survey {
  const raw = {
    version: 1,
    boat: { kind: "Cruising yacht", length_m: 11, fuel: "diesel", engine_count: 1, notes: "" },
    use: { complaint: "Flat by Sunday.", season: "summer", shore_power: null },
    places: [
      place("engine_space", "Engine space", { engine_space: true, within_reach: false }),
      place("helm", "Helm"),
      place("locker", "Locker"),
    ],
    runs: [
      { id: "r1", start: "engine_space", end: "helm", length_m: 3.2, measured: false },
      { id: "r2", start: "helm", end: "locker", length_m: 1.5, measured: true },
    ],
    resting: [
      { id: "rest_1", bank: "house", volts_v: 12.28, rested_h: 9, date: "2026-05-01", by: "anna" },
      { id: "rest_2", bank: "house", volts_v: 13.2, rested_h: 1, date: "2026-05-02", by: "bo" },
    ],
    profiles: [
      { id: "at_anchor", name: "At anchor", shore: false },
      { id: "alongside", name: "Alongside", shore: true },
    ],
    items: [],
    measurements: [],
    counted: [],
    inverter: { rated_w: 800, idle_w: 9, mains_v: 230, on_h: { at_anchor: 4 } },
    sun: {
      sky: "average",
      shading: 0.1,
      mounting: "flat",
      panel_age_years: 0,
      adjustment: 0.7,
      counts: "computed",
    },
    generators: [
      {
        id: "wind",
        name: "Wind generator",
        kind: "wind",
        curve: "small_wind",
        points: [],
        speed_kn: 11,
        hours: { at_anchor: 24 },
      },
    ],
    sizing: {
      volts: "12.8",
      days_between_charges: 2,
      dark_days: 1,
      window: null,
      growth: 0.25,
      ageing: 0.1,
      engine_h: {},
      basis: "audit_worst",
      candidates: [{ id: "own", unit: "agm_12_80", parallel: 6 }],
      prices: {},
      bank_temperature_c: 15,
      crank_s: 4,
      charge_to: 0.95,
    },
    ...changes,
  };
  return raw as unknown as Survey; // only what the tests look at
}

function place(id: string, name: string, traits = {}) {
  const usual = { engine_space: false, vapour: false, within_reach: true, tail_m: 0.3 };
  return { id, name, ...usual, ...traits };
}

export function choices(): Schemas["Choices"] {
  const raw = {
    boat_kinds: [
      {
        kind: "cruising_yacht",
        label: "Cruising yacht",
        length_m: 11,
        switchings: [{ id: "selector", words: "One four-position selector" }],
      },
    ],
    loads: [
      {
        item: {
          id: "fridge",
          name: "Refrigerator",
          group: "Galley",
          draw: 4.2,
          unit: "A",
          duty: 0.45,
          current: "dc",
          uses: { at_anchor: { hours: 24 }, under_way: { hours: 24 } },
        },
        note: "more in the tropics",
      },
      {
        item: {
          id: "lamp",
          name: "Lamp",
          group: "Lights",
          draw: 1,
          unit: "A",
          duty: 1,
          current: "dc",
          uses: {},
        },
        note: "",
      },
    ],
    loads_source: "plates; confirm in the edition in force",
    batteries: [{ id: "agm_12_80", label: "12 V 80 Ah AGM" }],
    batteries_source: "data sheets",
    curves: [
      {
        id: "small_wind",
        label: "Small wind generator",
        kind: "wind",
        points: [
          { speed_kn: 8, current_a: 0.8 },
          { speed_kn: 12, current_a: 3 },
        ],
      },
    ],
    skies: [{ id: "average", label: "Average sky" }],
    windows: [{ id: "night", label: "At night" }],
    chemistries: [{ id: "agm", label: "AGM" }],
    gauges: ["4 AWG", "2 AWG", "1/0 AWG"],
  };
  return raw as unknown as Schemas["Choices"];
}

function candidate(changes: Record<string, unknown>) {
  const bank = {
    chemistry: "agm",
    unit_v: 12,
    unit_ah: 80,
    unit_cca_a: 500,
    unit_weight_kg: 24,
    series: 1,
    parallel: 6,
  };
  return {
    id: "own",
    unit: "agm_12_80",
    label: "6 × 12 V 80 Ah AGM",
    family: "lead",
    fitted: false,
    series: 1,
    parallel: 6,
    batteries: 6,
    capacity_ah: 480,
    energy_wh: 5760,
    usable_ah: 160,
    usable_wh: 2010,
    enough: true,
    days: 3.3,
    depth: 0.2,
    years: 8,
    ended_by: "calendar",
    weight_kg: 144,
    fault_a: 15420,
    charge: [
      {
        source: "Engine, alternator hot",
        current_a: 58,
        hold_v: 14.3,
        hours: 5.25,
        bulk_h: 3,
        curve: { points: [{ hours: 0, soc: 0.5, current_a: 58, volts_v: 13.4 }] },
      },
    ],
    wanted_low_a: 48,
    wanted_high_a: 120,
    price: null,
    cost_per_kwh_year: null,
    advice: [
      { sense: "for", words: "Meets the 400 Ah needed." },
      { sense: "against", words: "6 strings in parallel share badly." },
      { sense: "needs", words: "Same make, size and age." },
    ],
    working: ["480 Ah x 12 V = 5760 Wh on the label."],
    bank,
    ...changes,
  };
}

export function plan(changes: Record<string, unknown> = {}): Schemas["BankPlan"] {
  const way = (id: string, label: string, charge_ah: number) => ({
    way: id,
    label,
    charge_ah,
    energy_wh: charge_ah * 12.8,
    working: [`${label}, worked out.`],
    source: "as published",
  });
  const raw = {
    stated: { volts_v: 12.8, words: "at 12.8 V, as chosen" },
    house: "house",
    yields: {
      solar: {
        panel_w: 300,
        counted: "computed",
        spread: 0.62,
        why_not: "In this season the sun stands lower.",
        ways: [
          way("divisor", "Watts divided by k", 75),
          way("peak_sun", "Watts x peak-sun hours", 80),
          way("computed", "Computed irradiation", 50),
        ],
      },
      generators: [
        { generator: "wind", working: ["3.6 A x 24 h = 87 Ah."], source: "a curve", hours_h: 24 },
      ],
      alternator_hot_a: 60,
      profiles: [
        {
          profile: "at_anchor",
          name: "At anchor",
          shore: false,
          use_ah: 100,
          solar_ah: 50,
          generators_ah: 20,
          engine_ah: 60,
          net_ah: 30,
        },
      ],
    },
    windows: [{ family: "lead", share: 0.35, words: "35 % of lead", source: "handbooks" }],
    needs: [
      need("audit_worst", "Audit, worst profile", false),
      need("counted_worst", "Counted, worst day", true),
    ],
    counts: "audit_worst",
    sources: [{ name: "Engine, alternator hot", kind: "engine" }],
    candidates: [
      candidate({
        id: "fitted",
        label: "2 × 12 V 110 Ah AGM",
        fitted: true,
        enough: false,
        unit: "",
      }),
      candidate({}),
    ],
    starts: [],
    missing: [],
    ...changes,
  };
  return raw as unknown as Schemas["BankPlan"];
}

function need(way: string, label: string, dark: boolean) {
  return {
    way,
    label,
    use_ah: 100,
    yield_ah: 70,
    net_ah: 30,
    days: dark ? 1 : 2,
    period_ah: 60,
    dark,
    need_ah: { lead: 400, lithium: 170 },
    working: [`${label}, worked out.`],
  };
}

export function report(): Schemas["LoadReport"] {
  const day = (profile: string, name: string, charge_ah: number) => ({
    profile,
    name,
    season: "summer",
    items: [
      {
        item: "fridge",
        name: "Refrigerator",
        hours_h: 24,
        running_a: 4.2,
        energy_wh: 580,
        charge_ah: 45.4,
        week_ah: 318,
        share: 0.62,
        standing: false,
      },
      {
        item: "alarm",
        name: "CO alarm",
        hours_h: 24,
        running_a: 0.06,
        energy_wh: 18,
        charge_ah: 1.4,
        week_ah: 10,
        share: 0.02,
        standing: true,
      },
    ],
    energy_wh: charge_ah * 12.8,
    charge_ah,
    mean_a: charge_ah / 24,
    hourly_a: Array(24).fill(charge_ah / 24),
    busiest_hour: 18,
    busiest_a: 12.3,
    all_on_a: 110,
    standing_ah: 1.4,
    standing_week_ah: 10,
    assumed_share: 0.4,
    inverter: {
      on_h: 4,
      idle_w: 9,
      idle_wh: 36,
      ac_items_h: 6,
      off_while_wanted: true,
      overload_w: 200,
    },
    unknown: profile === "at_anchor" ? ["Pump"] : [],
  });
  const raw = {
    stated: { volts_v: 12.8, words: "at 12.8 V, as chosen" },
    audit: {
      volts_v: 12.8,
      season: "summer",
      profiles: [day("at_anchor", "At anchor", 73), day("alongside", "Alongside", 60)],
      worst: "at_anchor",
      source: "plates; confirm in the edition in force",
    },
    comparisons: [
      {
        count: {
          profile: "at_anchor",
          name: "At anchor",
          season: "summer",
          days: 3,
          mean_ah: 91,
          spread_ah: 6,
          worst_ah: 97,
          worst_date: "2026-07-03",
        },
        audited_ah: 73,
        difference_ah: 18,
        difference_share: 0.25,
        agree: false,
        reasons: [{ words: "The inverter left on all day.", explains_ah: 17 }],
      },
    ],
    on_engine_bank: [
      {
        item: "fridge",
        name: "Refrigerator",
        feed: "House panel",
        bank: "Engine bank",
        charge_ah: 45,
      },
    ],
    not_wired: ["Kettle"],
  };
  return raw as unknown as Schemas["LoadReport"];
}
