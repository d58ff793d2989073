import { mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "@/api/client";
import { vuetify } from "@/app/theme";
import { point, scheme } from "@/shared/tests/samples";

import BenchTables from "./BenchTables.vue";
import { useBench } from "./benchStore";
import ConditionsTray from "./ConditionsTray.vue";
import FindingsList from "@/stages/frame/FindingsList.vue";
import { usePicking } from "./picking";
import { useScheme } from "@/documents/schemeStore";

function finding(changes: Partial<Schemas["Finding"]>): Schemas["Finding"] {
  return {
    rule: "SW-4",
    severity: "danger",
    title: "Main selector to off cuts the running alternator off",
    arithmetic: ["47.4 A have nowhere to go."],
    figures: [],
    limit: "0 moves may do this",
    source: "makers' manuals; confirm in the edition in force",
    why: "Its voltage jumps.",
    repair: "Lead the field through a field contact.",
    parts: ["main"],
    change: null,
    missing: null,
    estimated: [],
    about: "",
    key: changes.title ?? "SW-4 main",
    ...changes,
  };
}

beforeEach(() => {
  setActivePinia(createPinia());
  vi.stubGlobal("fetch", () => Promise.reject(new Error("no server in this test")));
});

describe("findings", () => {
  function list(findings: Schemas["Finding"][]) {
    const schemes = useScheme();
    schemes.scheme = scheme();
    schemes.findings = {
      revision: 1,
      survey_revision: 1,
      standing: { verdict: "passes", words: "Passes: nothing is left to do." },
      findings,
      confirm: "confirm in the edition in force",
      stages: { "SW-4": "scheme" },
      safe: [],
      waivers: [],
    };
    return { found: mount(FindingsList, { global: { plugins: [vuetify] } }), schemes };
  }

  it("give mark and word, and the arithmetic when asked", async () => {
    const { found } = list([finding({})]);
    expect(found.get("article header").text()).toContain("▲ danger");
    expect(found.text()).not.toContain("nowhere to go");
    const more = found.findAll("article button").find((b) => b.text() === "Arithmetic");
    await more?.trigger("click");
    expect(found.text()).toContain("47.4 A have nowhere to go.");
    expect(found.text()).toContain("makers' manuals; confirm in the edition in force");
  });

  it("say what to find out, and repair only what the computation knows how to", () => {
    const change = { type: "set_cable_gauge", cable: "feed", gauge: "2 AWG" } as const;
    const { found } = list([
      finding({ severity: "cannot_tell", missing: "Ohmmeter from common to 1." }),
      finding({ rule: "CH-12", severity: "fault", title: "Thin", change }),
    ]);
    const [unknown, thin] = found.findAll("article");
    expect(unknown?.text()).toContain("Find out: Ohmmeter from common to 1.");
    expect(unknown?.text()).not.toContain("Apply the repair");
    expect(thin?.text()).toContain("Apply the repair");
  });

  it("are counted by severity and can be narrowed to one", async () => {
    const note = finding({ severity: "note", title: "A habit" });
    const { found } = list([finding({}), note]);
    const counts = found.findAll(".counts button");
    expect(counts.map((c) => c.text())).toEqual(["▲ 1 danger", "● 1 note"]);
    await counts[1]?.trigger("click");
    expect(found.findAll("article h3").map((h) => h.text())).toEqual(["A habit"]);
  });

  it("show their part on the drawing", async () => {
    const { found } = list([finding({})]);
    await found
      .findAll("article button")
      .find((b) => b.text() === "Show")
      ?.trigger("click");
    expect(usePicking().picked).toEqual({ kind: "part", id: "main" });
  });

  it("say so when there are none, with the caution all the same", () => {
    const { found } = list([]);
    expect(found.text()).toContain("No rule finds anything here");
    expect(found.text()).toContain("licensed practitioner");
  });
});

describe("the tables", () => {
  it("tell amps, a closed path without amps, and no path apart", () => {
    useScheme().scheme = scheme();
    const bench = useBench();
    const cell = (joined: boolean, current_a: number) => ({ house: { joined, current_a } });
    bench.result = {
      revision: 1,
      state: bench.state,
      point: point(),
      reach: { fed_by: {}, charges: {}, joined_banks: [], loose_sources: [], dead_loads: [] },
      loads_by_bank: { panel: cell(true, 4.6), bilge: cell(false, 0) },
      sources_by_bank: { alternator: cell(true, 0) },
    };
    const found = mount(BenchTables, { global: { plugins: [vuetify] } });
    expect(found.findAll("td").map((td) => td.text())).toEqual(["4.6 A", "–", "joined"]);
    expect(found.text()).toContain("sees 13.72 V open; once closed 12.40 V");
    expect(found.text()).toContain("Takes 33.1 A, gives 30.0 A at 13.30 V.");
  });
});

describe("the tray", () => {
  it("has what the boat has, and says what is on", async () => {
    useScheme().scheme = scheme();
    const bench = useBench();
    const found = mount(ConditionsTray, {
      global: { plugins: [vuetify] },
      props: { selected: "main" },
    });
    expect(found.text()).toContain("Start engine");
    expect(found.text()).not.toContain("Shore lead");
    await found.get(".toggle").trigger("click");
    expect(bench.state.engine).toBe("on");
    expect(found.get(".toggle").attributes("aria-pressed")).toBe("true");
    const groups = found.findAll('[role="radiogroup"]').map((g) => g.attributes("aria-label"));
    expect(groups).toEqual(["Main selector", "Bow switch"]);
    await found.findAll('[role="radio"]')[0]?.trigger("click");
    expect(bench.positionOf("main")).toBe("off");
    expect(found.emitted("select")).toEqual([["main"]]);
  });
});
