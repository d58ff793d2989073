import { mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it } from "vitest";

import type { Schemas } from "@/api/client";
import { vuetify } from "@/app/theme";
import PatternReasons from "@/stages/patterns/PatternReasons.vue";

import CompareFindings from "./CompareFindings.vue";
import CompareNumbers from "./CompareNumbers.vue";

const MEASURES: Schemas["Measures"] = {
  charges: [],
  coverage: 0.78,
  house_a: 45.02,
  engine_a: 10.3,
  error_v: 0.33,
  draining: 0.5,
  cutting: 1,
  spare_start: true,
  unlike_joined: null,
  chattering: [],
  gear: 6,
  cables: 25,
  copper_kg: 11.97,
  by_severity: {},
};
const COSTS = {
  gear: 1250.4,
  unpriced: 2,
  copper_kg: 4.2,
  minutes: 450,
  work: null,
  total: null,
  currency: "EUR",
};
const finding = (changes: object) =>
  ({ rule: "SW-4", severity: "danger", title: "Cut off", ...changes }) as Schemas["Finding"];

beforeEach(() => setActivePinia(createPinia()));

describe("two schemes in numbers", () => {
  const better = { ...MEASURES, cutting: 0, error_v: null, unlike_joined: "danger" };
  const table = mount(CompareNumbers, {
    props: {
      names: ["As found", "Proposal A"],
      sides: [MEASURES, better],
      costs: [null, COSTS],
    },
  });
  const cells = (words: string) =>
    table
      .findAll("tr")
      .find((row) => row.text().includes(words))
      ?.findAll("td")
      .map((cell) => cell.text());

  it("show every measure with its unit", () => {
    expect(cells("into the house bank")).toEqual(["45.0 A", "45.0 A"]);
    expect(cells("drain an engine bank")).toEqual(["50 %", "50 %"]);
    expect(cells("Copper")).toEqual(["12.0 kg", "12.0 kg"]);
    expect(cells("believes the house bank higher")).toEqual(["0.33 V", "–"]);
    expect(cells("Unlike banks")).toEqual(["no", "yes"]);
  });

  it("show what each costs to build, and what has no price", () => {
    expect(cells("Gear and cable")).toEqual(["as it is", "EUR 1250, 2 lines without a price"]);
    expect(cells("Hours of work")).toEqual(["as it is", "7.5 h, no price kept"]);
  });

  it("mark the rows that differ", () => {
    expect(table.findAll("tr.differs")).toHaveLength(6);
  });
});

describe("findings of two schemes", () => {
  it("are told as lost and gained, with mark and word", () => {
    const comparison = {
      lost: [finding({})],
      gained: [],
      kept: 4,
      differences: [{ what: "part", how: "gone", id: "main", words: "Main selector" }],
    } as unknown as Schemas["SchemeComparison"]; // only what the part looks at
    const found = mount(CompareFindings, { props: { comparison } });
    const [lost, gained] = found.findAll("section");
    expect(lost?.text()).toContain("▲ danger");
    expect(lost?.text()).toContain("SW-4: Cut off");
    expect(gained?.text()).toContain("none");
    expect(found.text()).toContain("− Main selector");
    expect(found.text()).toContain("4 findings are in both");
  });
});

describe("why a pattern stands where it does", () => {
  const advice = (reasons: Schemas["PatternReason"][]) =>
    mount(PatternReasons, {
      global: { plugins: [vuetify] },
      props: { advice: { reasons } as Schemas["PatternAdvice"] },
    });

  it("is told on both sides", () => {
    const found = advice([
      { marks: 5, words: "a second bank can start the engine" },
      { marks: -3, words: "12 parts to fit" },
    ]);
    const [pro, contra] = found.findAll("ul");
    expect(pro?.text()).toBe("✓ a second bank can start the engine");
    expect(contra?.text()).toBe("▾ 12 parts to fit");
  });

  it("says so when a side is empty", () => {
    expect(advice([]).text()).toContain("nothing that weighs");
  });
});
