import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { describe, expect, it, vi } from "vitest";
import { ref } from "vue";

import { vuetify } from "@/app/theme";
import { useSurvey } from "@/documents/surveyStore";
import { survey } from "@/shared/tests/surveySamples";

import CountableDays from "./CountableDays.vue";
import FaultsSection from "./FaultsSection.vue";
import HeldSection from "./HeldSection.vue";
import LayoutDialog from "./LayoutDialog.vue";
import ReadingsSection from "./ReadingsSection.vue";
import type { Log, LogStage } from "./useLog";
import type { Held, RecordFile, Records } from "./useRecords";

const TARGETS = [
  { id: "house", name: "House bank", sort: "bank" },
  { id: "first", name: "Engine", sort: "engine" },
  { id: "alternator", name: "Alternator", sort: "device" },
];
const KINDS = [
  { id: "rest_v", words: "Rest volts", unit: "V", on: "bank", how: "everything off" },
  { id: "cells", words: "Density of the cells", unit: "", on: "bank", how: "a hydrometer" },
  { id: "engine_h", words: "Engine hours", unit: "h", on: "engine", how: "its counter" },
];

function log(more: object = {}) {
  const plain = { targets: TARGETS, kinds: KINDS, entries: [], trends: [] };
  return { ...plain, open_faults: [], open_settings: [], due: [], ...more } as unknown as Log;
}

function staged() {
  const enter = vi.fn(() => Promise.resolve(true));
  return { enter, stage: { enter, sending: ref(false) } as unknown as LogStage };
}

describe("a reading", () => {
  it("is one value, or one a cell, and never a comma", async () => {
    const { enter, stage } = staged();
    const page = mount(ReadingsSection, {
      props: { log: log(), stage, variantId: "v" },
      global: { plugins: [vuetify] },
    });
    const [on, what] = page.findAll("select");
    const input = () => page.find("input");
    await input().setValue("12,6");
    await page.find("form").trigger("submit");
    expect(page.find('[role="alert"]').text()).toContain("12.6");
    expect(enter).not.toHaveBeenCalled();
    await what?.setValue("cells");
    await input().setValue("1.265 1.26  1.22");
    await page.find("form").trigger("submit");
    await flushPromises();
    expect(enter).toHaveBeenCalledWith({
      kind: "reading",
      target: "house",
      reading: { kind: "cells", values: [1.265, 1.26, 1.22], rested_h: 0, source: "" },
    });
    await on?.setValue("first");
    await input().setValue("1200");
    await page.find("form").trigger("submit");
    expect(enter).toHaveBeenLastCalledWith(
      expect.objectContaining({
        target: "first",
        reading: expect.objectContaining({ kind: "engine_h" }),
      }),
    );
  });
});

describe("a fault", () => {
  it("is told further under its own id", async () => {
    const fault = { complaint: "Never full", theories: "", cause: "", cure: "", proof: "" };
    const entry = { id: "f1", kind: "fault", target: "boat", at: "2026-01-01T00:00:00Z", fault };
    const { enter, stage } = staged();
    const page = mount(FaultsSection, {
      props: { log: log({ open_faults: [entry] }), stage },
      global: { plugins: [vuetify] },
    });
    const press = (words: string) =>
      page
        .findAll("button")
        .find((one) => one.text() === words)
        ?.trigger("click");
    await press("Say more");
    const form = page.find('form[aria-label="More of a fault"]');
    await form.findAll("textarea")[2]?.setValue("Green lug");
    await form.trigger("submit");
    expect(enter).toHaveBeenCalledWith({
      kind: "fault",
      target: "f1",
      fault: { ...fault, cause: "Green lug" },
    });
  });
});

describe("how a file is read", () => {
  it("changes what a column holds, and its unit with it", async () => {
    const columns = [
      { head: "t", quantity: "time", unit: "", flipped: false },
      { head: "x", quantity: "volts", unit: "mV", flipped: false },
    ];
    const layout = { separator: ",", decimal: ".", head_row: 1, time_format: "iso", zone: "UTC" };
    const record = { name: "a.csv", layout: { ...layout, columns }, sample: [], assumed: [] };
    const units = { time: [""], volts: ["V", "mV"], amps: ["A", "mA"], nothing: [""] };
    const page = mount(LayoutDialog, {
      props: {
        record: { ...record, driven: "both" } as unknown as RecordFile,
        records: { units, time_formats: ["iso"], zones: ["UTC"] } as unknown as Records,
      },
      global: { plugins: [vuetify], stubs: { VDialog: { template: "<div><slot /></div>" } } },
    });
    await page.find('select[aria-label="What x is"]').setValue("amps");
    const buttons = page.findAll("button");
    await buttons.find((one) => one.text() === "Read the rows")?.trigger("click");
    const [[told, driven]] = page.emitted("start") as [[RecordFile["layout"], string]];
    expect(told.columns[1]).toMatchObject({ quantity: "amps", unit: "A" });
    expect(driven).toBe("both");
    expect(columns[1]?.quantity).toBe("volts"); // what was guessed stays until it is kept
  });
});

describe("what records say", () => {
  const usual = { base_a: null, bedtime_a: null, used_ah: null, duty: null, cycle_a: null };
  const found = { spells: [], nights: [], days: [], resets: [], gaps: [], deepest: null };
  const told = { ...found, unseen: [], usual: { ...usual, least_float: null, most_jump: null } };
  const held = (more: object) =>
    mount(HeldSection, {
      props: {
        held: {
          told,
          played: null,
          findings: [],
          causes: [],
          figures: [],
          cannot_tell: [],
          ...more,
        } as unknown as Held,
      },
    });

  it("is never silence: well, not to be told, or found with its arithmetic", () => {
    expect(held({ played: {} }).text()).toContain("✓ Nothing parts from");
    const nothing = held({ cannot_tell: ["Volts and amps are needed."] });
    expect(nothing.text()).toContain("? Volts and amps are needed.");
    expect(nothing.text()).not.toContain("✓");
    const finding = { key: "a", title: "Amps at first: 30 A", arithmetic: ["52 - 30 = 22 A"] };
    const cause = { faults: ["x"], words: ["Set too low"], share: 0.9, speaks: [], look: "volts" };
    const weak = held({ played: {}, findings: [finding], causes: [cause] }).text();
    expect(weak).toContain("52 - 30 = 22 A");
    expect(weak).toContain("90 % Set too low");
    expect(weak).not.toContain("✓");
  });
});

describe("days without any charge", () => {
  const day = (date: string, used_ah: number) => ({ date, used_ah, season: "autumn" as const });

  function shown(days: ReturnType<typeof day>[], counted: object[] = []) {
    setActivePinia(createPinia());
    const surveys = useSurvey();
    surveys.saved = { revision: 1, survey: survey({ counted: counted as never }) } as never;
    const put = vi.spyOn(surveys, "put").mockResolvedValue(true as never);
    const some = { mean_ah: 80, most_ah: 108, doubt: "Solar panel: only if it was covered." };
    const counts = days.length ? some : { mean_ah: null, most_ah: null, doubt: "" };
    const told = { days, left_out: 5, why: "Something charged.", ...counts };
    const props = { counted: told, file: "anchor.csv" };
    const page = mount(CountableDays, { props, global: { plugins: [vuetify] } });
    return { page, put };
  }

  it("are taken into Loads by one click, each once", async () => {
    const known = { id: "day_2025_09_02", date: "2025-09-02", used_ah: 70, profile: "at_anchor" };
    const days = [day("2025-09-02", 72), day("2025-09-03", 108), day("2025-09-04", 60)];
    const { page, put } = shown(days, [known]);
    expect(page.text()).toContain("3 days of 8");
    expect(page.text()).toContain("80 Ah a day on average, 108 Ah at most");
    expect(page.text()).toContain("◆ Solar panel: only if it was covered.");
    expect(page.text()).toContain("Left out 5 days: Something charged.");
    await page.get("button.v-btn").trigger("click");
    const [list, ...rows] = put.mock.calls[0] ?? [];
    expect(list).toBe("counted");
    expect(rows).toEqual([
      expect.objectContaining({ date: "2025-09-03", used_ah: 108, profile: "at_anchor" }),
      expect.objectContaining({ date: "2025-09-04", season: "autumn" }),
    ]);
    expect(new Set(rows.map((row) => row.id)).size).toBe(2);
    expect(rows[0]?.note).toContain("anchor.csv");
  });

  it("say so where none counts, and where all are taken", () => {
    expect(shown([]).page.text()).toContain("None of 5 days counts for the audit. Something");
    const { page } = shown([day("2025-09-02", 72)], [{ id: "d", date: "2025-09-02" }]);
    expect(page.text()).toContain("All of them are in Loads");
    expect(page.find("button.v-btn").exists()).toBe(false);
  });
});
