import { flushPromises } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { ready, show } from "@/shared/tests/stage";

import BanksFound from "./BanksFound.vue";
import BoatSection from "./BoatSection.vue";
import CablesFound from "./CablesFound.vue";
import FindOutList from "./FindOutList.vue";
import GearFound from "./GearFound.vue";
import OwnerSection from "./OwnerSection.vue";
import PhotosSection from "./PhotosSection.vue";
import PlacesSection from "./PlacesSection.vue";

const SURVEYED = {
  revision: 1,
  survey_revision: 1,
  to_find_out: [],
  banks: { house: { batteries: 2, capacity_ah: 230, nominal_v: 12 } },
  rests: {
    rest_1: { soc: 0.5, low: 0.4, high: 0.6, refused: null, working: ["12.28 V"], source: "table" },
    rest_2: { soc: null, low: null, high: null, refused: "being charged", working: [], source: "" },
  },
};
let answers: Record<string, unknown> = {};
let sent: { method: string; path: string; body: string }[] = [];

beforeEach(() => {
  document.body.innerHTML = "";
  setActivePinia(createPinia());
  [answers, sent] = [{}, []];
  vi.stubGlobal("visualViewport", new EventTarget());
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = new URL(request.url).pathname;
    const body = request.method === "GET" ? "" : await request.text();
    sent.push({ method: request.method, path, body });
    const found = answers[path.split("/").at(-1) ?? ""] ?? [];
    return new Response(JSON.stringify(found), { headers: { "Content-Type": "application/json" } });
  });
});

describe("owner and boat", () => {
  it("save each field by itself, and say what is to find out", async () => {
    const { set } = ready();
    const { pick, type, words } = show(OwnerSection);
    expect(words()).toContain("Days aboard in a year ? to find out");
    await pick("Way of use", "Weekends");
    expect(set).toHaveBeenLastCalledWith("use", { way: "weekends" });
    await pick("Shore power", "No");
    expect(set).toHaveBeenLastCalledWith("use", { shore_power: false });
    await type("What the owner complains of", "Nothing starts.");
    expect(set).toHaveBeenLastCalledWith("use", { complaint: "Nothing starts." });
  });

  it("change the volts of the whole system by one change", async () => {
    const { change, set } = ready();
    const { pick, type } = show(BoatSection);
    await pick("System voltage", "24 V");
    expect(change).toHaveBeenLastCalledWith({ type: "set_system_volts", system_v: 24 });
    await type("Coldest morning", "−6");
    expect(set).toHaveBeenLastCalledWith("boat", { coldest_c: -6 });
  });

  it("estimate the cranking amps from the power, and mark them as assumed", async () => {
    const { schemes, change } = ready();
    const starter = { kind: "starter", id: "starter", name: "Starter", power_kw: 1.8 };
    const parts = [{ ...starter, cranking_a: 300, assumed: [] }];
    const design = { ...schemes.scheme?.design, components: parts };
    schemes.scheme = { ...schemes.scheme, design } as never; // only the starter is looked at
    answers["cranking"] = { cranking_a: 312, words: "about 312 A" };
    const { press } = show(BoatSection);
    await press("Estimate the amps");
    await flushPromises();
    expect(change).toHaveBeenLastCalledWith({
      type: "set_part",
      part: "starter",
      fields: { cranking_a: 312, assumed: ["cranking_a"] },
    });
  });
});

describe("places and runs", () => {
  it("a run that is measured says so; one that is not asks for it", async () => {
    const { put } = ready();
    const { words, press, type } = show(PlacesSection);
    expect(words()).toContain("Helm – Locker");
    expect(words()).toContain("✓ measured");
    expect(words()).toContain("◆ estimated");
    await press("It is right as it stands");
    expect(put).toHaveBeenLastCalledWith("runs", { id: "r1", measured: true });
    await type("Length", "2.9");
    expect(put).toHaveBeenLastCalledWith("runs", { id: "r1", length_m: 2.9, measured: true });
  });

  it("a new run needs both its ends", async () => {
    const { put } = ready();
    const { pick, found } = show(PlacesSection);
    const lengths = found.findAll<HTMLInputElement>(".add input");
    await lengths.at(-1)?.setValue("4");
    await flushPromises();
    expect(put).not.toHaveBeenCalled();
    await pick("New run from", "Engine space");
    await pick("to", "Locker");
    await found.findAll<HTMLInputElement>(".add input").at(-1)?.setValue("4.5");
    await flushPromises();
    expect(put).toHaveBeenLastCalledWith("runs", {
      id: "engine_space_locker",
      start: "engine_space",
      end: "locker",
      length_m: 4.5,
      measured: true,
    });
  });

  it("traits are ticked, places come and go", async () => {
    const { put, remove } = ready();
    const { found, press } = show(PlacesSection);
    await found.findAll("input[type=checkbox]")[1]?.trigger("change");
    expect(put).toHaveBeenLastCalledWith("places", { id: "engine_space", vapour: true });
    await press("Add a place");
    expect(put).toHaveBeenLastCalledWith("places", { id: "place_4", name: "Place 4" });
    await press("Take out Helm");
    expect(remove).toHaveBeenLastCalledWith("places", "helm");
  });
});

describe("banks as found", () => {
  it("have their sums, and what the resting volts tell with its doubt", async () => {
    const { change } = ready();
    const { words, press, type } = show(BanksFound, { surveyed: SURVEYED });
    expect(words()).toContain("2 × 12 V 115 Ah: together 230 Ah at 12 V");
    expect(words()).toContain("about 50 %, between 40 % and 60 %");
    expect(words()).toContain("◆ no estimate: being charged");
    const about = { type: "set_part", part: "house" };
    await press("Take 50 %");
    expect(change).toHaveBeenLastCalledWith({ ...about, fields: { soc: 0.5 } });
    await type("Capacity of one", "120");
    expect(change).toHaveBeenLastCalledWith({ ...about, fields: { unit_ah: 120 } });
  });

  it("keep a resting voltage with its hours, date and person", async () => {
    const { put } = ready();
    const { type, words } = show(BanksFound, { surveyed: null });
    expect(words()).toContain("On the bench it stands at 58 %");
    await type("Rested for", "12");
    await type("Volts at the posts", "12.61");
    expect(put.mock.lastCall?.[1]).toMatchObject({
      id: "rest_house",
      bank: "house",
      volts_v: 12.61,
      rested_h: 12,
      by: "unknown",
    });
  });
});

describe("gear as found", () => {
  it("is grouped, edited, taken out and added", async () => {
    const { change, schemes } = ready();
    const add = vi.spyOn(schemes, "addFound").mockResolvedValue(true);
    const { found, words, press, type } = show(GearFound);
    expect(found.findAll("h2").map((h) => h.text())).toEqual([
      "Sources",
      "Switches and relays",
      "Fuses, breakers, bars, shunts",
      "Starter and feeds",
    ]);
    await type("Rated current", "80");
    expect(change).toHaveBeenLastCalledWith({
      type: "set_part",
      part: "alternator",
      fields: { rated_a: 80 },
    });
    await press("take out Combining relay");
    expect(change).toHaveBeenLastCalledWith({ type: "remove_part", part: "relay" });
    await press("Put in a solar panel");
    expect(add).toHaveBeenCalledWith({ kind: "solar", name: "Solar", place: null, bank: "house" });
    expect(words()).toContain("Makes before it breaks ? to find out");
  });
});

describe("cables as found", () => {
  it("say how their length is known, and get a size from a caliper", async () => {
    const { schemes, change } = ready();
    const lengths = [
      { cable: "feed", length_m: 2, how: "run" },
      { cable: "run", length_m: 2, how: "estimated" },
    ];
    schemes.scheme = { ...schemes.scheme, cable_lengths: lengths } as never;
    const guess = { gauge: "4 AWG", area_mm2: 21.15, off: 0.02, likely: true };
    answers["gauge-reading"] = {
      guesses: [guess],
      careful: "4 AWG",
      working: ["9.3 mm over the insulation"],
      source: "makers' sheets",
    };
    const { words, press, type } = show(CablesFound);
    expect(words()).toContain("✓ by the run");
    expect(words()).toContain("◆ estimated");
    await press("Print faded?");
    await type("Or over the insulation", "9.3");
    await flushPromises();
    await press("4 AWG · 21.15 mm²");
    expect(change).toHaveBeenLastCalledWith({
      type: "set_cable_gauge",
      cable: "feed",
      gauge: "4 AWG",
    });
    expect(JSON.parse(sent.at(-1)?.body ?? "{}")).toMatchObject({ outside_mm: 9.3 });
  });
});

describe("photographs", () => {
  it("are listed with their words, and the words can be changed", async () => {
    ready();
    const photo = { id: "p-1", caption: "", width: 4, height: 3, author: "anna", created: "" };
    answers["photos"] = [photo];
    const { found, type } = show(PhotosSection);
    await flushPromises();
    expect(found.get("img").attributes("alt")).toBe("Photograph without words");
    await type("What it shows", "Behind the panel");
    await flushPromises();
    const put = sent.find((call) => call.method === "PUT");
    expect([put?.path, put?.body]).toEqual(["/api/photos/p-1", '{"caption":"Behind the panel"}']);
  });
});

describe("what is to find out", () => {
  it("is gathered by section with units and what is taken so far", () => {
    const row = { stage: "survey", subject: "House bank", now: "110 Ah assumed" };
    const rows = [
      { ...row, section: "Banks", question: "capacity of one battery", unit: "Ah" },
      { ...row, section: "Banks", question: "age", unit: "years", now: "unknown" },
    ];
    const { words } = show(FindOutList, { rows });
    expect(words()).toContain("Banks · 2");
    expect(words()).toContain("House bank: capacity of one battery [Ah] 110 Ah assumed");
  });
});
