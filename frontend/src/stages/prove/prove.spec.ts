import { mount } from "@vue/test-utils";
import { createVuetify } from "vuetify";
import { describe, expect, it, vi } from "vitest";
import { ref } from "vue";

import KeyPad from "./KeyPad.vue";
import TestSection from "./TestSection.vue";
import type { Prove } from "./useProve";

const vuetify = createVuetify();
const TEST = {
  key: "a",
  group: "power on",
  title: "House bank at rest",
  place: "Battery box",
  how: "Red probe on +",
  setup: ["Engine off", "Selector: off"],
  unit: "V",
  expects: "",
  wanted: { low: 12.2, middle: 12.4, high: 12.6, instrument: "multimeter", mostly: null },
  proves_nothing: "",
  misses: ["a dead cell"],
  caution: "",
};
const LATER = { ...TEST, key: "b", title: "Panel dead", setup: ["Engine off", "Selector: both"] };

describe("the keypad", () => {
  it("makes a number with a sign, and enters nothing else", async () => {
    const pad = mount(KeyPad, { props: { unit: "V", busy: false, modelValue: "" } });
    const keep = async () =>
      pad.setProps({ modelValue: pad.emitted("update:modelValue")?.at(-1)?.[0] as string });
    const press = async (name: string) => {
      await pad.find(`button[aria-label="${name}"]`).trigger("click");
      await keep();
    };
    expect(pad.find(".enter").attributes("disabled")).toBeDefined();
    for (const key of ["1", "2", ".", "5", "±"]) await press(key);
    await press("."); // a second point is no number
    expect(pad.find("output").text()).toContain("-12.5");
    await pad.find(".enter").trigger("click");
    expect(pad.emitted("enter")).toEqual([[-12.5]]);
  });
});

describe("a test", () => {
  function shown(answer: string, at = "a") {
    const entry = { kind: "reading", verdict: { word: answer, why: "1.8 V below" } };
    const states = {
      a: { answer, entries: answer === "open" ? [] : [entry] },
      b: { answer: "open", entries: [] },
    };
    const prove = {
      tests: [TEST, LATER],
      states,
      groups: { "power on": "Power on" },
      meters: [],
      live_meter: false,
    } as unknown as Prove;
    const enter = vi.fn(() => Promise.resolve(prove));
    const stage = { enter, sending: ref(false) } as never;
    const page = mount(TestSection, {
      props: { prove, stage, at },
      global: { plugins: [vuetify] },
    });
    return { page, enter };
  }

  it("says what it should read, and what a miss points to only then", () => {
    expect(shown("open").page.text()).toContain("12.20 to 12.60 V");
    expect(shown("open").page.text()).not.toContain("a dead cell");
    expect(shown("outside").page.text()).toContain("a dead cell");
    expect(shown("within").page.text()).not.toContain("a dead cell");
  });

  it("shows large what has to be set since the test before", () => {
    expect(shown("open", "b").page.find(".now").text()).toBe("▸ Selector: both");
  });

  it("goes on by itself from what is well, and stays at a miss", async () => {
    for (const [answer, next] of [
      ["within", "b"],
      ["outside", undefined],
    ] as const) {
      const { page, enter } = shown(answer);
      page.findComponent(KeyPad).vm.$emit("enter", 12.4);
      await vi.waitFor(() => expect(enter).toHaveBeenCalled());
      await new Promise((done) => setTimeout(done));
      expect(page.emitted("update:at")?.at(-1)?.[0]).toBe(next);
    }
  });
});
