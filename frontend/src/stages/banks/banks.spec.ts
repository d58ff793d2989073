import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { useNotices } from "@/app/notices";
import { ready, show } from "@/shared/tests/stage";
import { plan } from "@/shared/tests/surveySamples";

import CandidatesSection from "./CandidatesSection.vue";
import NeedSection from "./NeedSection.vue";
import PlanHead from "./PlanHead.vue";
import StartSection from "./StartSection.vue";
import YieldSection from "./YieldSection.vue";

const START = {
  starter: "starter",
  bank: "house",
  coldest_c: -4,
  need_a: 544,
  available_a: 1011,
  volts_v: 8.42,
  limit_v: 9.6,
  starts: 0,
  working: ["310 A warm x 1.76"],
  missing: ["the coldest start (0 °C taken)"],
  estimated: ["Engine bank + to Selector"],
  source: "handbooks; confirm in the edition in force",
};

beforeEach(() => {
  document.body.innerHTML = "";
  setActivePinia(createPinia());
  vi.stubGlobal("visualViewport", new EventTarget());
});

describe("the head of the plan", () => {
  it("says use, net, need and whether the fitted bank is enough", () => {
    ready();
    const { words } = show(PlanHead, { plan: plan({ missing: ["the draw of Pump"] }) });
    expect(words()).toContain("100 Ah used a day");
    expect(words()).toContain("400 Ah of lead needed, or 170 Ah of lithium");
    expect(words()).toContain("◆ 480 Ah fitted");
    expect(words()).toContain("? Wanting: the draw of Pump");
  });
});

describe("candidates", () => {
  it("stand side by side with marks, units and words", () => {
    ready();
    const { words, found } = show(CandidatesSection, { plan: plan() });
    expect(found.findAll("thead th")).toHaveLength(3);
    for (const told of [
      "◆ too small",
      "✓ enough",
      "480 Ah, 5760 Wh",
      "160 Ah, 2010 Wh",
      "8.0 years (by age)",
      "144 kg",
      "5.3 h at 58.0 A",
      "48.0 A to 120 A",
      "no price",
      "◆ against 6 strings in parallel share badly.",
    ]) {
      expect(words()).toContain(told);
    }
  });

  it("are chosen by one named change of the variant's bank", async () => {
    const { change } = ready();
    const { press } = show(CandidatesSection, { plan: plan() });
    await press("Choose this");
    expect(change).toHaveBeenCalledWith({
      type: "choose_bank",
      bank: "house",
      chemistry: "agm",
      unit_v: 12,
      unit_ah: 80,
      unit_cca_a: 500,
      unit_weight_kg: 24,
      series: 1,
      parallel: 6,
    });
  });

  it("take a price, another battery, and leave one's own again", async () => {
    const { set } = ready();
    const { type, pick, press } = show(CandidatesSection, { plan: plan() });
    await type("Price", "210");
    expect(set).toHaveBeenLastCalledWith("sizing", { prices: { agm_12_80: 210 } });
    await pick("Another bank to compare", "12 V 80 Ah AGM");
    await type("Strings", "3");
    await press("Add it");
    expect(set).toHaveBeenLastCalledWith("sizing", {
      candidates: [
        { id: "own", unit: "agm_12_80", parallel: 6 },
        { id: "own_2", unit: "agm_12_80", parallel: 3 },
      ],
    });
    await press("Take out");
    expect(set).toHaveBeenLastCalledWith("sizing", { candidates: [] });
  });

  it("say why there are none", () => {
    ready();
    const { words } = show(CandidatesSection, {
      plan: plan({ candidates: [], missing: ["loads"] }),
    });
    expect(words()).toContain("Nothing to compare yet: loads");
  });
});

describe("the need", () => {
  it("shows every way with its days, and lets another count", async () => {
    const { set } = ready();
    const { words, press, type } = show(NeedSection, { plan: plan() });
    expect(words()).toContain("60 Ah 1 dark day");
    expect(words()).toContain("60 Ah 2 days");
    await press("Let it count");
    expect(set).toHaveBeenLastCalledWith("sizing", { basis: "counted_worst" });
    await type("Growth", "30");
    expect(set).toHaveBeenLastCalledWith("sizing", { growth: 0.3 });
    await type("Own usable window", "40");
    expect(set).toHaveBeenLastCalledWith("sizing", { window: 0.4 });
  });
});

describe("the yield", () => {
  it("has the three ways side by side, why they differ, and one that counts", async () => {
    const { set } = ready();
    const { words, press, type } = show(YieldSection, { yields: plan().yields });
    expect(words()).toContain("◆ The ways differ by 62 %. In this season the sun stands lower.");
    expect(words()).toContain("✓ this one counts");
    await press("Watts divided by k");
    expect(set).toHaveBeenLastCalledWith("sun", { counts: "divisor" });
    await type("Shaded", "25");
    expect(set).toHaveBeenLastCalledWith("sun", { shading: 0.25 });
    await type("Own k", "3.5");
    expect(set).toHaveBeenLastCalledWith("sun", { divisor: 3.5 });
  });

  it("takes a generator's curve typed in, line by line, or says which line is wrong", async () => {
    const { put } = ready();
    const { pick, found } = show(YieldSection, { yields: plan().yields });
    await pick("Curve", "Own curve, typed in");
    expect(put).toHaveBeenLastCalledWith("generators", {
      id: "wind",
      curve: null,
      points: [
        { speed_kn: 8, current_a: 0.8 },
        { speed_kn: 12, current_a: 3 },
      ],
    });
    const area = found.get("textarea");
    area.element.value = "8 1\n12 four";
    await area.trigger("change");
    expect(useNotices().notice?.text).toContain("Line 2");
    area.element.value = "8 1\n12; 4.5";
    await area.trigger("change");
    expect(put.mock.lastCall?.[1]).toMatchObject({
      points: [
        { speed_kn: 8, current_a: 1 },
        { speed_kn: 12, current_a: 4.5 },
      ],
    });
  });

  it("puts in machines and hours", async () => {
    const { put, set } = ready();
    const { press, type } = show(YieldSection, { yields: plan().yields });
    await press("Add a wind generator");
    expect(put.mock.lastCall?.[1]).toMatchObject({ id: "wind_generator", curve: "small_wind" });
    await type("Hours alongside", "12");
    expect(put).toHaveBeenLastCalledWith("generators", {
      id: "wind",
      hours: { at_anchor: 24, alongside: 12 },
    });
    await type("At anchor", "1.5");
    expect(set).toHaveBeenLastCalledWith("sizing", { engine_h: { at_anchor: 1.5 } });
  });
});

describe("the start bank", () => {
  it("shows volts, amps and starts, what is missing and what is estimated", () => {
    ready();
    const { words } = show(StartSection, { starts: [START] });
    expect(words()).toContain("▲ 8.42 V at the starter; 9.60 V wanted");
    expect(words()).toContain("1011 A there by the label; 544 A needed");
    expect(words()).toContain("0 starts in reserve");
    expect(words()).toContain("? To find out: the coldest start");
    expect(words()).toContain("◆ Estimated lengths decide here: Engine bank + to Selector");
  });
});
