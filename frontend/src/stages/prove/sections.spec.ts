import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { createVuetify } from "vuetify";
import { ref } from "vue";

import AllTests from "./AllTests.vue";
import DiagnosisSection from "./DiagnosisSection.vue";
import KeyPad from "./KeyPad.vue";
import type { Prove } from "./useProve";

const vuetify = createVuetify();
const global = { plugins: [vuetify] };
const PROVE = {
  tests: [
    {
      key: "rest:b",
      group: "power on",
      title: "House bank at rest",
      unit: "V",
      expects: "",
      wanted: { low: 12.2, middle: 12.4, high: 12.6 },
    },
    { key: "look", group: "cold", title: "Boots", unit: "", expects: "boots on", wanted: null },
  ],
  states: {
    "rest:b": { answer: "outside", entries: [{ reading: { value: 10.4 } }] },
    look: { answer: "open", entries: [] },
  },
  counts: { outside: 1, open: 1 },
  groups: { cold: "Cold, before power", "power on": "Power on", runs: "Runs under load" },
  today: { temperature_c: null, rested_h: 4 },
  live_meter: true,
} as unknown as Prove;

beforeEach(() => setActivePinia(createPinia()));

describe("all tests", () => {
  it("stand in their groups with range, reading and answer in mark and word", async () => {
    const page = mount(AllTests, { props: { prove: PROVE, stage: {} as never }, global });
    expect(page.findAll("h2").map((h) => h.text())).toEqual(["Cold, before power", "Power on"]);
    const [looks, rest] = page.findAll(".tests button");
    expect(looks?.text()).toContain("boots on");
    expect(looks?.text()).toContain("not tested");
    for (const words of ["▲", "12.20 to 12.60", "10.4 V", "outside"])
      expect(rest?.text()).toContain(words);
    await rest?.trigger("click");
    expect(page.emitted("open")).toEqual([["rest:b"]]);
  });
});

describe("finding the fault", () => {
  const next = {
    key: "search:crank",
    title: "Starter, cranking",
    minutes: 3,
    caution: "Fuel cut off",
    setup: ["Engine: turn the starter"],
    how: "Red probe on Starter +",
    unit: "V",
  };
  const FOUND = {
    found: true,
    causes: [
      {
        keys: ["a", "b"],
        words: ["a loose lead", "a blown fuse"],
        share: 0.94,
        cure: "land it",
        parts: [],
        speaks: ["Would give 0.00 V; you read 0.02 V: fits."],
      },
      { keys: ["healthy"], words: ["nothing is wrong"], share: 0.06, cure: "", speaks: [] },
    ],
    next,
    gain_bit: 1.24,
    means: [
      { words: "a loose lead", value: 0 },
      { words: "nothing is wrong", value: 11.93 },
    ],
    odd: ["99 V: no cause comes nearer"],
    misses: [
      { key: "rest:b", title: "House bank at rest" },
      { key: "crank", title: "Starter" },
    ],
    about: "",
    readings: [{ key: "rest:b", title: "House bank at rest", value: 10.4, unit: "V" }],
  };

  function shown() {
    const diagnose = vi.fn(() => Promise.resolve(FOUND));
    const enter = vi.fn(() => Promise.resolve(PROVE));
    const fromMeter = vi.fn(() => Promise.resolve({ value: 0.01, unit: "V", instrument: "M" }));
    const stage = { diagnose, enter, fromMeter, sending: ref(false) } as never;
    const page = mount(DiagnosisSection, { props: { prove: PROVE, stage }, global });
    return { page, diagnose, enter, fromMeter };
  }

  it("tells causes by belief, what cannot be parted, and what each answer would mean", async () => {
    const { page } = shown();
    await flushPromises();
    const text = page.text();
    for (const words of [
      "94 %",
      "a loose lead",
      "1 more that no reading so far can part",
      "land it",
    ])
      expect(text).toContain(words);
    expect(text).toContain("Read next, 3 min");
    expect(page.find(".means").text()).toContain("11.93 V nothing is wrong");
    expect(text).toContain("99 V: no cause comes nearer");
    expect(page.findAll("h2").some((h) => h.text() === "Found")).toBe(true);
  });

  it("keeps a reading of the one asked for, and weighs anew", async () => {
    const { page, enter, diagnose } = shown();
    await flushPromises();
    page.findComponent(KeyPad).vm.$emit("enter", 0.4);
    await flushPromises();
    const reading = { value: 0.4, instrument: "" };
    expect(enter).toHaveBeenCalledWith({ kind: "reading", target: "search:crank", reading });
    expect(diagnose).toHaveBeenCalledTimes(2);
  });

  it("looks into one miss at a time where more than one thing is wrong", async () => {
    const { page, diagnose } = shown();
    await flushPromises();
    expect(diagnose).toHaveBeenLastCalledWith("");
    await page.find("select").setValue("crank");
    await flushPromises();
    expect(diagnose).toHaveBeenLastCalledWith("crank");
  });

  it("takes it from the connected meter with its name", async () => {
    const { page, enter, fromMeter } = shown();
    await flushPromises();
    await page.find(".take").trigger("click");
    await flushPromises();
    expect(fromMeter).toHaveBeenCalledWith("search:crank");
    const reading = { value: 0.01, instrument: "M" };
    expect(enter).toHaveBeenCalledWith({ kind: "reading", target: "search:crank", reading });
  });
});
