import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "@/api/client";
import { vuetify } from "@/app/theme";
import { useScheme } from "@/documents/schemeStore";
import { scheme } from "@/shared/tests/samples";

import DetoursSection from "./DetoursSection.vue";
import LaddersSection from "./LaddersSection.vue";
import PathsSection from "./PathsSection.vue";
import RunCells from "./RunCells.vue";
import RunSheet from "./RunSheet.vue";
import { fieldsFor, type RunRow } from "./runs";

const leg = (cable: string, side: "out" | "back"): Schemas["LegRow"] => ({
  cable,
  side,
  start: "House bank +",
  end: "House panel +",
  gauge: side === "out" ? "4 AWG" : "6 AWG",
  area_mm2: 21.15,
  insulation_c: 105,
  length_m: 2.2,
  measured: true,
  engine_space: false,
  sheathed: false,
  bundled: 1,
  locked: false,
  allowed_a: 160,
  drop_v: 0.25,
  colour: side === "out" ? "red" : "black",
  label: side === "out" ? "008+" : "008−",
  lugs: [
    {
      post: "House bank +",
      stud: "M8",
      assumed: true,
      lug: "M8",
      hole_mm: 8.4,
      torque: "9 to 13.6 N m",
    },
  ],
  copper_kg: 0.4,
  bend_mm: 55,
  price: null,
});

const ROW: RunRow = {
  id: "feed",
  name: "House bank + to House panel +",
  purpose: "supply",
  legs: [leg("feed", "out"), leg("feed_neg", "back")],
  length_m: 4.4,
  measured: true,
  current_a: 108.4,
  current_from: "computed",
  brief_a: 0,
  allowed_a: 120,
  copper_c: 58,
  confidence: "high",
  path_v: 1.1,
  limit_v: 0.36,
  limit_percent: 3,
  limit_why: "a main feeder",
  by_ampacity: "1 AWG",
  by_drop: null,
  gauge: "4 AWG",
  drop_v: 0.81,
  drop_percent: 6.8,
  path: "supply panel",
  path_percent: 9.2,
  load_v: 10.98,
  device: "fuse",
  device_name: "House fuse",
  device_type: "ANL fuse",
  device_a: 150,
  device_m: 0.15,
  device_place: "Battery box",
  interrupt_a: 6000,
  fault_a: 7318,
  exempt: false,
  locked: false,
  copper_kg: 0.8,
  verdict: "bad",
  wrong: ["House bank to House panel loses 9.2 %, 3.0 % are allowed"],
  working: [
    { about: "Design current", lines: ["Largest computed: 108.4 A."], source: "This boat" },
    { about: "Voltage drop", lines: ["0.81 V"], source: "IEC 60028; confirm in the edition" },
  ],
};

let requests: Request[] = [];
function serve(answers: Record<string, unknown>) {
  requests = [];
  vi.stubGlobal("fetch", (request: Request) => {
    requests.push(request);
    const path = new URL(request.url).pathname.split("/").slice(-1)[0] as string;
    return Promise.resolve(Response.json(answers[path] ?? {}));
  });
}

beforeEach(() => {
  setActivePinia(createPinia());
  useScheme().scheme = scheme();
});

describe("a run in the table", () => {
  const cells = (changes: Partial<RunRow> = {}, wide = true) =>
    mount(RunCells, {
      props: {
        row: { ...ROW, ...changes },
        index: 0,
        gauges: ["2 AWG", "1 AWG"],
        picked: false,
        wide,
      },
    });

  it("tells every number with its unit, and what is wrong by mark and word", () => {
    const text = cells().text();
    for (const told of ["108 A", "of 120 A", "9.2 %", "of 3.0 %", "150 A at 0.15 m", "ANL fuse"])
      expect(text).toContain(told);
    expect(text).toContain("no size");
    expect(text).toContain("◆ back 6 AWG");
    expect(cells().get(".mark").text()).toBe("■not to the standard");
  });

  it("tells cranking in volts and an exempt run as exempt", () => {
    const crank = cells({ path: "cranking starter", brief_a: 297, device_name: "", exempt: true });
    expect(crank.text()).toContain("1.10 V");
    expect(crank.text()).toContain("of 0.36 V");
    expect(crank.text()).toContain("brief 297 A");
    expect(crank.get(".device").text()).toContain("exempt");
    expect(cells({ device_name: "" }).get(".device .text-error").text()).toBe("none");
  });

  it("offers the sizes in stock beside its own, and hands on what is entered", async () => {
    const one = cells();
    expect(one.findAll("option").map((o) => o.text())).toEqual(["4 AWG", "2 AWG", "1 AWG"]);
    await one.get("select").setValue("1 AWG");
    await one.get("input[data-cell='0:back']").setValue("3.1");
    await one.get("input[type=checkbox]").trigger("change");
    expect(one.emitted("set")).toEqual([[{ gauge: "1 AWG" }], [{ locked: true }]]);
    expect(one.emitted("length")).toEqual([["feed_neg", "3.1"]]);
  });

  it("sets the same figures on both cables, or on one", () => {
    expect(fieldsFor(ROW, { bundled: 3 }).map((r) => r.cable)).toEqual(["feed", "feed_neg"]);
    expect(fieldsFor(ROW, { label: "x" }, "feed")).toEqual([
      { cable: "feed", fields: { label: "x" } },
    ]);
  });
});

describe("the sheet of a run", () => {
  const sheet = () =>
    mount(RunSheet, {
      props: { row: ROW, gauges: ["4 AWG", "2 AWG"] },
      global: { plugins: [vuetify] },
    });

  it("opens every number to its arithmetic and source", async () => {
    const found = sheet();
    expect(found.text()).toContain("Largest computed: 108.4 A.");
    expect(found.text()).not.toContain("IEC 60028");
    const more = found.findAll(".working button").find((b) => b.text().includes("Voltage drop"));
    await more?.trigger("click");
    expect(found.text()).toContain("IEC 60028; confirm in the edition");
    expect(found.text()).toContain("M8 stud (usual, look), lug M8, hole 8.4 mm, 9 to 13.6 N m");
    expect(found.text()).toContain("fuse out until the end");
  });

  it("tries the whole run otherwise, and saves only when told", async () => {
    const then = { ...ROW, path_percent: 4.4, allowed_a: 160 };
    serve({ "what-if": { revision: 1, now: ROW, then, gone: ["CO-2 heals"], come: ["CO-4"] } });
    const found = sheet();
    const thicker = found.findAll(".tries button").find((b) => b.text() === "One size thicker");
    await thicker?.trigger("click");
    await flushPromises();
    expect(await requests[0]?.json()).toEqual({
      rows: [
        { cable: "feed", fields: { gauge: "2 AWG" } },
        { cable: "feed_neg", fields: { gauge: "6 AWG" } },
      ],
    });
    expect(found.get(".tried").text()).toContain("path 9.2 % → 4.4 %");
    expect(found.get(".tried").text()).toContain("✓ goes: CO-2 heals");
    expect(requests).toHaveLength(1);
  });
});

describe("paths, ladders and detours", () => {
  it("show where the volts of a path are lost", async () => {
    const path = {
      id: "supply panel",
      kind: "supply" as const,
      giver: "house",
      taker: "panel",
      name: "House bank to House panel",
      state: "as drawn",
      steps: [
        {
          name: "Fuse",
          cable: null,
          parts: ["sel"],
          side: "out" as const,
          current_a: 108,
          drop_v: 0.02,
          length_m: 0,
        },
      ],
      nominal_v: 12,
      drop_v: 1.1,
      drop_percent: 9.2,
      limit_v: 0.36,
      limit_percent: 3,
      why: "a main feeder",
      length_m: 9.7,
      at_end_v: 10.98,
      current_a: 108,
      kept: false,
    };
    const found = mount(PathsSection, { props: { paths: [path] } });
    expect(found.get(".sum").text()).toContain("■ 1.10 V");
    expect(found.get(".end").text()).toContain("10.98 V");
    await found.get(".line").trigger("click");
    expect(found.get("tbody tr").text()).toContain("contact");
    expect(found.text()).toContain("None in this variant.");
  });

  it("mark the device that opens on a short", async () => {
    const rung = (device: string, above: string | null, selective: string) => ({
      device,
      name: device,
      label: "ANL fuse",
      rating_a: 100,
      above,
      depth: above ? 1 : 0,
      selective,
      fault_a: 7000,
      interrupt_a: 6000,
      breaks: false,
      feeds: ["House panel"],
    });
    const ladders = [
      {
        bank: "house",
        name: "House bank",
        rungs: [rung("main", null, "top"), rung("branch", "main", "not")],
        unprotected: [],
      },
    ];
    const openings = [
      {
        cable: "feed",
        name: "Feed",
        opens: ["branch"],
        words: "branch opens; main may open first.",
      },
    ];
    const found = mount(LaddersSection, { props: { ladders, openings } });
    expect(found.text()).toContain("■ the one above may open first");
    expect(found.text()).toContain("◆ fault 7000 A, breaks 6000 A");
    expect(found.findAll(".opens")).toHaveLength(0);
    await found.get("select").setValue("feed");
    expect(found.findAll(".opens")).toHaveLength(1);
    expect(found.get("[role=status]").text()).toContain("main may open first");
  });

  it("say what to measure where a direct way is not known", () => {
    const way = {
      kind: "as_run" as const,
      words: "5 cables",
      length_m: 9.7,
      gauge: "6 AWG",
      drop_v: 1.1,
      drop_percent: 9.2,
      copper_kg: 2.76,
      price: null,
    };
    const one = {
      path: "supply panel",
      name: "House bank to House panel",
      from_place: "Box",
      to_place: "Helm",
      ways: [way, { ...way, kind: "direct" as const, price: 120 }],
      missing: "the run between Box and Helm",
    };
    const text = mount(DetoursSection, { props: { detours: [one], currency: "kr" } }).text();
    expect(text).toContain("? Find out: the run between Box and Helm.");
    expect(text).toContain("no price in stock");
    expect(text).toContain("120 kr");
  });
});
