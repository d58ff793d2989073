/** A small boat for the tests of the front end: two banks, a selector, a relay, a panel. */
import type { Schemas } from "@/api/client";

type Design = Schemas["Design"];

const cable = (id: string, start: string, end: string) => ({
  id,
  start,
  end,
  length_m: 2,
  estimated: false,
  gauge: "2 AWG",
  insulation_c: 105 as const,
  purpose: "power" as const,
});

export function design(): Design {
  const raw = {
    version: 1,
    system_v: 12,
    fuel: "diesel",
    profiles: [
      { id: "at_anchor", name: "At anchor" },
      { id: "under_way", name: "Under way" },
    ],
    places: [],
    components: [
      {
        kind: "bank",
        id: "house",
        name: "House bank",
        role: "house",
        chemistry: "agm",
        unit_v: 12,
        unit_ah: 115,
        parallel: 2,
        series: 1,
        soc: 0.58,
        temperature_c: 15,
      },
      { kind: "selector", id: "main", name: "Main selector", make_before_break: null },
      { kind: "relay", id: "relay", name: "Combining relay", sensing: "dual", rating_a: 140 },
      {
        kind: "isolator",
        id: "weir",
        name: "Isolator",
        sort: "silicon",
        outputs: 2,
        rating_a: 100,
      },
      { kind: "dcdc", id: "lock", name: "Dc-dc charger", limit_a: 30, set_v: 14.2 },
      { kind: "bus_bar", id: "bar", name: "House positive bar", polarity: "pos", studs: 6 },
      { kind: "alternator", id: "alternator", name: "Alternator", rated_a: 90, sensing: "machine" },
      {
        kind: "loads",
        id: "panel",
        name: "House panel",
        items: [
          { id: "fridge", name: "Refrigerator", draw_a: 4 },
          { id: "lights", name: "Cabin lights", draw_a: 1 },
        ],
      },
    ],
    cables: [cable("feed", "house.pos", "main.two"), cable("run", "bar.s1", "panel.pos")],
  };
  const components = raw.components.map((part) => ({ assumed: [], ...part }));
  return { ...raw, components } as unknown as Design; // only what the tests look at
}

export function point(changes: Partial<Schemas["OperatingPoint"]> = {}): Schemas["OperatingPoint"] {
  return {
    post_v: { "house.pos": 12.74, "main.two": 12.7, "bar.s1": null, "panel.pos": null },
    post_island: { "house.pos": 0, "main.two": 0, "bar.s1": null, "panel.pos": null },
    conductor_a: { feed: -9.2, run: 0 },
    conductor_drop_v: { feed: 0.04, run: 0 },
    totals: { given_a: 10, used_a: 4, stored_a: 5, converted_a: 1, lost_w: 3 },
    banks: { house: { volts_v: 12.74, current_a: -9.2, soc: 0.58, given_by_a: {} } },
    sources: {
      alternator: {
        mode: "limit",
        current_a: 47.4,
        limit_a: 47.4,
        set_v: 14.3,
        volts_v: 13.6,
        sense_v: 13.6,
      },
    },
    loads: {
      panel: {
        volts_v: 10.9,
        current_a: 5,
        given_by_a: { house: 5 },
        items: [
          { id: "lights", on: true, current_a: 1, below_minimum: false },
          { id: "fridge", on: true, current_a: 4, below_minimum: true },
        ],
      },
    },
    passing: {
      "weir.out1": { current_a: 32.8, drop_v: 0.71 },
      "weir.out2": { current_a: 0, drop_v: -1.2 },
    },
    converters: {
      lock: {
        verdict: "closed",
        closed: true,
        in_v: 13.4,
        in_a: 33.1,
        out_v: 13.3,
        out_a: 30,
        mode: "limit",
        why: "its input has 13.40 V while it runs",
      },
    },
    starters: {},
    dead_parts: [],
    loose_sources: [],
    balance_residual: 0,
    rounds: 4,
    relays: {
      relay: {
        verdict: "chatters",
        closed: false,
        holds: false,
        sees_open_v: { a: 13.72, b: 12.2 },
        sees_closed_v: { a: 12.4, b: 12.4 },
        why: "sees 13.72 V open; once closed 12.40 V",
      },
    },
    ...changes,
  };
}

export function scheme(changes: Partial<Schemas["SchemeOut"]> = {}): Schemas["SchemeOut"] {
  const layout = { side: "pos" as const, width: 400, height: 300, bays: [], boxes: [], wires: [] };
  return {
    variant: "v-1",
    job: "j-1",
    name: "As found",
    revision: 1,
    can_undo: null,
    can_redo: null,
    undo_at: null,
    redo_at: null,
    survey_revision: 1,
    cable_lengths: [],
    design: design(),
    cable_names: { feed: "House bank + to Main selector two", run: "Bar to House panel +" },
    post_names: { "house.pos": "House bank +", "main.two": "Main selector two" },
    switches: [
      {
        id: "bow",
        name: "Bow switch",
        kind: "switch",
        position: "off",
        positions: ["off", "on"],
        marks: {},
        control: false,
      },
      {
        id: "main",
        marks: {},
        control: false,
        name: "Main selector",
        kind: "selector",
        position: "both",
        positions: ["off", "1", "both", "2"],
      },
    ],
    positive: layout,
    negative: { ...layout, side: "neg" as const },
    ...changes,
  };
}
