import { flushPromises } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { ready, show } from "@/shared/tests/stage";
import { report } from "@/shared/tests/surveySamples";

import CountedSection from "./CountedSection.vue";
import DaySection from "./DaySection.vue";
import InverterSection from "./InverterSection.vue";
import LibraryDialog from "./LibraryDialog.vue";
import LoadSheet from "./LoadSheet.vue";
import ProfilesDialog from "./ProfilesDialog.vue";
import ProfileTiles from "./ProfileTiles.vue";
import RowsDialog from "./RowsDialog.vue";

let answer: { status: number; body: unknown } = { status: 200, body: {} };
let sent: string[] = [];

beforeEach(() => {
  document.body.innerHTML = "";
  setActivePinia(createPinia());
  sent = [];
  vi.stubGlobal("visualViewport", new EventTarget());
  vi.stubGlobal("fetch", async (request: Request) => {
    sent.push(await request.text());
    const headers = { "Content-Type": "application/json" };
    return new Response(JSON.stringify(answer.body), { status: answer.status, headers });
  });
});

const page = () => document.body.textContent?.replace(/\s+/g, " ") ?? "";

describe("the tiles", () => {
  it("say what a day costs, the most first to see, and what is left out", async () => {
    ready();
    const { words, found, press } = show(ProfileTiles, { report: report(), shown: "at_anchor" });
    expect(words()).toContain("At anchor ◆ most73 Ah a day");
    expect(words()).toContain("? without 1 of unknown draw");
    expect(words()).toContain("standing 10 Ah a week");
    await press("Alongside");
    expect(found.emitted("show")).toEqual([["alongside"]]);
  });
});

describe("a day", () => {
  it("has shares, standing draws, peaks and what the engine bank carries", () => {
    ready();
    const told = report();
    const { words } = show(DaySection, { report: told, day: told.audit.profiles[0] });
    expect(words()).toContain("Busiest hour 18:00: 12.3 A mean. Everything at once: 110 A");
    expect(words()).toContain("CO alarm: 1.4 Ah a day, 10 Ah a week");
    expect(words()).toContain("Refrigerator (House panel, Engine bank): 45 Ah a day");
    expect(words()).toContain("Kettle: pick a feed");
  });
});

describe("counted days", () => {
  it("stand beside the audit with the difference and its reasons", async () => {
    const { put } = ready();
    const { words, type } = show(CountedSection, { comparisons: report().comparisons });
    expect(words()).toContain("91 Ah ± 6 Ah counted");
    expect(words()).toContain("◆ 18 Ah a day more counted than audited");
    expect(words()).toContain("The inverter left on all day. explains 17 Ah");
    await type("Used", "88");
    expect(put.mock.lastCall?.[1]).toMatchObject({
      used_ah: 88,
      profile: "at_anchor",
      season: "summer",
    });
  });
});

describe("the inverter", () => {
  it("warns where it is off or too small, and keeps hours by profile", async () => {
    const { set } = ready();
    const { words, type, press } = show(InverterSection, { days: report().audit.profiles });
    expect(words()).toContain("◆ It is off while AC is wanted");
    expect(words()).toContain("▲ The largest AC load is 200 W over it");
    await type("Switched on", "8");
    expect(set).toHaveBeenLastCalledWith("inverter", { on_h: { at_anchor: 8 } });
    await press("No inverter aboard");
    expect(set).toHaveBeenLastCalledWith("inverter", null);
  });

  it("can be put aboard", async () => {
    const { set } = ready({ inverter: null });
    const { press } = show(InverterSection, { days: [] });
    await press("There is an inverter aboard");
    expect(set.mock.lastCall?.[0]).toBe("inverter");
  });
});

describe("the library", () => {
  it("adds what was ticked, on the feed, in the profiles of this boat", async () => {
    const { put } = ready();
    const { found, press } = show(LibraryDialog, { modelValue: false, feed: "panel" });
    await found.setProps({ modelValue: true });
    await flushPromises();
    expect(page()).toContain("more in the tropics");
    const box = document.querySelector<HTMLInputElement>("input[type=checkbox]");
    box?.click();
    await flushPromises();
    await press("Add 1 load");
    expect(put.mock.lastCall?.[1]).toMatchObject({
      id: "fridge",
      feed: "panel",
      uses: { at_anchor: { hours: 24 } },
    });
    expect(Object.keys((put.mock.lastCall?.[1]?.["uses"] as object) ?? {})).toEqual(["at_anchor"]);
  });
});

describe("the sheet of a load", () => {
  const item = {
    id: "fridge",
    name: "Refrigerator",
    group: "Galley",
    law: "power",
    window: "night",
    standing: false,
    always_on: false,
    basis: "difference",
    seasons: { winter: 0.6 },
    uses: {},
  };
  const measured = { id: "m1", item: "fridge", method: "difference", unit: "A" };

  it("holds feed, seasons and measurements, and takes the load out", async () => {
    const { put, remove } = ready({
      items: [item] as never,
      measurements: [{ ...measured, before: -1, after: -5, date: "2026-05-01", by: "bo" }] as never,
    });
    const { words, pick, type, press, found } = show(LoadSheet, { id: "fridge" });
    expect(words()).toContain("more in the tropics");
    expect(words()).toContain("-1 to -5 A by difference, 2026-05-01, bo");
    await pick("Which feed", "House panel");
    expect(put).toHaveBeenLastCalledWith("items", { id: "fridge", feed: "panel" });
    await type("Autumn", "0.8");
    expect(put).toHaveBeenLastCalledWith("items", {
      id: "fridge",
      seasons: { winter: 0.6, autumn: 0.8 },
    });
    await type("Winter", "1");
    expect(put).toHaveBeenLastCalledWith("items", { id: "fridge", seasons: {} });
    await press("Take Refrigerator out");
    expect(remove).toHaveBeenCalledWith("items", "fridge");
    expect(found.emitted("gone")).toHaveLength(1);
  });
});

describe("profiles", () => {
  it("are named, put on shore, added and taken out", async () => {
    const { put, remove } = ready();
    const { found, press } = show(ProfilesDialog, { modelValue: false });
    await found.setProps({ modelValue: true });
    await flushPromises();
    await press("Add a profile");
    expect(put).toHaveBeenLastCalledWith("profiles", { id: "own_profile", name: "Own profile" });
    document
      .querySelector<HTMLInputElement>("input[type=checkbox]")
      ?.dispatchEvent(new Event("change"));
    expect(put).toHaveBeenLastCalledWith("profiles", { id: "at_anchor", shore: true });
    await press("Take out Alongside");
    expect(remove).toHaveBeenLastCalledWith("profiles", "alongside");
  });
});

describe("a table on its way in", () => {
  const rows = [{ id: "lamp", name: "Lamp" }];
  const problems = [{ path: "row 3, column draw", message: "write a decimal point, 4.2" }];

  async function bringIn(table: string) {
    const found = show(RowsDialog, { which: "items", table: null });
    await found.found.setProps({ table });
    for (let n = 0; n < 4; n++) await flushPromises();
    return found;
  }

  it("tells what is wrong where, and keeps the good rows only when told so", async () => {
    const { put } = ready();
    answer = { status: 200, body: { rows, problems, notes: ["read as UTF-16"], read: 2 } };
    const { press } = await bringIn("name,draw\nLamp,1\nPump,4,2\n");
    expect(page()).toContain("1 of 2 rows can be kept. ▲ 1 wrong");
    expect(page()).toContain("row 3, column draw: write a decimal point, 4.2");
    expect(page()).toContain("◆ read as UTF-16");
    expect(put).not.toHaveBeenCalled();
    await press("Keep the good 1 rows");
    expect(put).toHaveBeenCalledWith("items", rows[0]);
  });

  it("can be mended and read again", async () => {
    ready();
    answer = { status: 200, body: { rows: [], problems, notes: [], read: 1 } };
    const { press } = await bringIn("name,draw\nPump,4,2\n");
    const area = document.querySelector("textarea");
    if (!area) throw new Error("nothing to mend in");
    area.value = "name,draw\nPump,4.2\n";
    area.dispatchEvent(new Event("input"));
    await press("Read it again");
    expect(sent.at(-1)).toBe("name,draw\nPump,4.2\n");
  });

  it("that cannot be read at all says why", async () => {
    ready();
    answer = {
      status: 422,
      body: { detail: "", errors: [{ path: "", message: "the file is empty" }] },
    };
    await bringIn("x");
    expect(page()).toContain("▲");
  });
});
