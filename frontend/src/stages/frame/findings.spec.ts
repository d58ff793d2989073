import { flushPromises } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "@/api/client";
import { useScheme } from "@/documents/schemeStore";
import { scheme } from "@/shared/tests/samples";
import { findingsList } from "@/shared/tests/findings";

import { groupsOf, placesOf, type Finding } from "./findings";

const finding = (changes: Partial<Finding>): Finding =>
  ({
    rule: "OC-1",
    severity: "fault",
    title: "No device",
    parts: ["house"],
    key: "OC-1 house",
    arithmetic: ["0.3 m"],
    why: "It burns.",
    repair: "A fuse.",
    about: "",
    change: null,
    estimated: [],
    missing: null,
    limit: "0.175 m",
    source: "E-11",
    figures: [],
    ...changes,
  }) as Finding;
const FOUND = [
  finding({}),
  finding({
    rule: "SW-4",
    severity: "danger",
    title: "Cut off",
    parts: ["main"],
    key: "SW-4 main",
  }),
  finding({ rule: "CO-2", severity: "fault", title: "Sags", parts: ["panel"], key: "CO-2 panel" }),
];
const STAGES = { "OC-1": "runs", "SW-4": "scheme", "CO-2": "runs" };
const waiver: Schemas["WaiverOut"] = {
  id: "w1",
  finding: "CO-2 panel",
  rule: "CO-2",
  title: "Sags",
  reason: "Lamps only",
  author: "anna",
  revision: 1,
  created: "2026-11-25T10:00:00Z",
  lapsed: false,
};

function placedScheme() {
  const made = scheme();
  const [first] = made.design.components;
  made.design.places = [{ id: "box", name: "Battery box" }] as typeof made.design.places;
  if (first) first.place = "box";
  return made;
}

beforeEach(() => setActivePinia(createPinia()));

describe("findings in groups", () => {
  it("are told apart by severity, stage, place and rule", () => {
    const { design } = placedScheme();
    const stageOf = (f: Finding) => STAGES[f.rule as keyof typeof STAGES];
    const names = (by: Parameters<typeof groupsOf>[1]) =>
      groupsOf(FOUND, by, design, stageOf).map((g) => `${g.name} ${g.findings.length}`);
    expect(names("severity")).toEqual(["fault 2", "danger 1"]);
    expect(names("stage")).toEqual(["Runs 2", "Scheme 1"]);
    expect(names("rule")).toEqual(["OC-1 1", "SW-4 1", "CO-2 1"]);
    expect(names("place")).toEqual(["Battery box 1", "place not told 2"]);
    expect(placesOf(FOUND[0] as Finding, null)).toEqual(["place not told"]);
  });
});

describe("the drawer", () => {
  const listed = (waivers: Schemas["WaiverOut"][] = []) =>
    findingsList(placedScheme(), {
      revision: 1,
      survey_revision: 1,
      standing: { verdict: "fails", words: "Does not pass: 1 danger stands." },
      findings: FOUND,
      confirm: "confirm in the edition in force",
      stages: STAGES,
      safe: ["OC-1 house"],
      waivers,
    });

  it("filters by severity, stage and place", async () => {
    const { list } = listed();
    const titles = () => list.findAll("article.finding h3").map((h) => h.text());
    expect(titles()).toHaveLength(3);
    await list.get(".counts button").trigger("click");
    expect(titles()).toEqual(["Cut off"]);
    await list.get(".counts button").trigger("click");
    const [grouping, stage, place] = list.findAll(".filters select");
    await stage?.setValue("runs");
    expect(titles()).toEqual(["No device", "Sags"]);
    await place?.setValue("Battery box");
    expect(titles()).toEqual(["No device"]);
    await grouping?.setValue("rule");
    expect(list.get("h3.group").text()).toBe("OC-1 1");
  });

  it("counts no waived finding, shows who waived it, and can withdraw it", async () => {
    const { list, schemes } = listed([waiver]);
    expect(schemes.counting).toHaveLength(2);
    expect(list.get(".waived").text()).toContain("“Lamps only” anna");
    const asked: string[] = [];
    vi.stubGlobal("fetch", (request: Request) => {
      asked.push(`${request.method} ${new URL(request.url).pathname}`);
      return Promise.resolve(Response.json({ ...schemes.findings, waivers: [] }));
    });
    await list.get(".waived button").trigger("click");
    await flushPromises();
    expect(asked[0]).toMatch(/^DELETE .*\/waivers\/w1$/);
    expect(useScheme().counting).toHaveLength(3);
  });

  it("offers the safe repairs together, with their number", () => {
    expect(listed().list.get(".acts").text()).toContain("Repair all that are safe (1)");
  });
});
