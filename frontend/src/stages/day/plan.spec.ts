import { flushPromises } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { api } from "@/api/client";
import { ready, show } from "@/shared/tests/stage";

import { useDay } from "./dayStore";
import PlanLine from "./PlanLine.vue";
import PlanSection from "./PlanSection.vue";
import { LANES, laneRows, roomIn, spansOf, withLeads, withSpans } from "./planEdits";
import { PLAN } from "./tests/samples";

beforeEach(() => {
  setActivePinia(createPinia());
  document.body.innerHTML = "";
});

describe("the plan", () => {
  it("finds room for a new span and keeps spans in order", () => {
    const room = roomIn(PLAN, "engine");
    expect(room.start_h).toBeGreaterThanOrEqual(2);
    const spans = [...spansOf(PLAN, "engine"), { start_h: 0, end_h: 0.5 }];
    expect(withSpans(PLAN, "engine", spans).engine?.map((s) => s.start_h)).toEqual([0, 1]);
  });

  it("gives each load and each source that is off a row of its own, and orders leads", () => {
    const span = (item: string, start_h: number) => ({ item, start_h, end_h: start_h + 1 });
    const plan = {
      ...(PLAN as object),
      loads: [span("panel.lamp", 1), span("panel.pump", 1), span("panel.lamp", 5)],
    };
    const lanes = LANES.filter((lane) => ["engine", "loads", "sources_off"].includes(lane.id));
    const rows = laneRows(plan as never, lanes).map((row) => [row.lane.id, row.own, row.spans]);
    expect(rows.slice(1)).toEqual([
      ["loads", "panel.lamp", [0, 2]],
      ["loads", "panel.pump", [1]],
    ]);
    const lead = (at_h: number) => ({ at_h, cable: "feed", end: "end" as const, to: "house.pos" });
    expect(withLeads(PLAN, [lead(5), lead(2)]).leads?.map((one) => one.at_h)).toEqual([2, 5]);
  });

  it("keeps what is typed, makes a turned switch the plan's own, and shows what is refused", async () => {
    ready();
    const day = useDay();
    const keep = vi.spyOn(day, "keep").mockResolvedValue(true);
    const kept = { id: "p-1", school: "a", revision: 3, document: PLAN, for_variant: PLAN };
    const { words, type, press } = show(PlanSection, {
      kept: { ...kept, problem: null, errors: [] },
    });
    await type("Lasts", "30");
    expect(keep.mock.calls[0]?.[0]).toMatchObject({ hours: 30, name: "Day trip" });
    expect(keep.mock.calls[0]?.[1]).toBe("a");
    await press("1 10:00");
    await type("At (day", "1 10:30");
    expect(keep.mock.calls[1]?.[0].moves?.[1]).toMatchObject({ at_h: 2.5, occasion: "by_hand" });
    expect(keep.mock.calls[1]?.[1]).toBe("own");
    await type("At (day", "noon");
    expect(keep).toHaveBeenCalledTimes(2);
    day.refused = { detail: "no", errors: ["engine[1]: begins too early"] };
    await flushPromises();
    expect(words()).toContain("engine[1]: begins too early");
  });
});

describe("edits that overtake each other", () => {
  const kept = (revision: number, hours: number) => {
    const document = { ...(PLAN as object), hours };
    return { id: "p-1", school: "a", revision, document, for_variant: document, problem: null };
  };

  it("leaves the newest on the page while an older one is answered, refused or not", async () => {
    ready();
    const answers: ((fits: boolean) => void)[] = [];
    vi.spyOn(useDay(), "keep").mockImplementation(
      () => new Promise<boolean>((answer) => answers.push(answer)),
    );
    const { found, field, type } = show(PlanSection, { kept: kept(3, 24) });
    await type("Lasts", "30");
    await type("Lasts", "9600");
    await found.setProps({ kept: kept(4, 30) }); // what the first of them left on the server
    answers[0]?.(true);
    await flushPromises();
    expect(field("Lasts").value).toBe("9600");
    answers[1]?.(false);
    await flushPromises();
    expect(field("Lasts").value).toBe("9600");
    await type("Lasts", "36");
    await found.setProps({ kept: kept(5, 36) });
    answers[2]?.(true);
    await flushPromises();
    expect(field("Lasts").value).toBe("36");
    await found.setProps({ kept: kept(6, 48) }); // somebody else's
    expect(field("Lasts").value).toBe("48");
  });

  it("goes on keeping after the network failed once", async () => {
    const day = useDay();
    day.plans = { plans: [kept(3, 24)], ready: [], schools: [] } as never;
    day.asked = { plan: "p-1", school: null, case: null };
    const put = vi.spyOn(api, "PUT").mockRejectedValueOnce(new TypeError("no network"));
    expect(await day.keep(PLAN, "a")).toBe(false);
    expect(day.refused?.detail).toBeTruthy();
    put.mockResolvedValue({ data: kept(4, 24), response: new Response() } as never);
    vi.spyOn(api, "GET").mockResolvedValue({ data: [], response: new Response() } as never);
    expect(await day.keep(PLAN, "a")).toBe(true);
    expect([put.mock.calls.length, day.refused]).toEqual([2, null]);
  });
});

describe("the line of a plan", () => {
  const line = () => {
    const props = { plan: PLAN, lanes: ["engine", "living"], picked: null };
    return show(PlanLine, { ...props, profiles: { at_anchor: "At anchor" }, switches: {} }).found;
  };
  // 840 px wide where no width is known: 116 before the first hour, 14 after the last.
  const WIDTH = 840;
  const px = (hour: number) => 116 + (hour / 24) * (WIDTH - 116 - 14);

  it.each([
    ["its middle moves it", 1.5, 5.5, { start_h: 5, end_h: 6 }],
    ["its end stretches it", 1.98, 3.98, { start_h: 1, end_h: 4 }],
    ["its start does too", 1.02, 0.27, { start_h: 0.25, end_h: 2 }],
    ["no end goes past the plan's", 1.5, 60, { start_h: 23, end_h: 24 }],
    ["no end goes before its start", 1.98, 0.2, { start_h: 1, end_h: 1 + 1 / 12 }],
  ])("a span is dragged: %s", async (_, from, to, wanted) => {
    const found = line();
    const svg = found.get("svg");
    svg.element.setPointerCapture = () => undefined;
    const width = Number(svg.attributes("width"));
    expect(width).toBe(WIDTH);
    await found.get(".span.engine").trigger("pointerdown", { clientX: px(from), pointerId: 1 });
    await svg.trigger("pointermove", { clientX: px(to) });
    await svg.trigger("pointerup");
    expect(found.emitted("pick")).toEqual([["engine", 0]]);
    const [plan] = found.emitted("change")?.[0] as [typeof PLAN];
    const [span] = spansOf(plan, "engine");
    expect(span?.start_h).toBeCloseTo(wanted.start_h, 1);
    expect(span?.end_h).toBeCloseTo(wanted.end_h, 1);
  });

  it("picks by key and by a click, and changes nothing where nothing was dragged", async () => {
    const found = line();
    found.get("svg").element.setPointerCapture = () => undefined;
    await found.get(".span.engine").trigger("pointerdown", { clientX: px(1.5), pointerId: 1 });
    await found.get("svg").trigger("pointerup");
    await found.get(".span.living").trigger("keydown", { key: "Enter" });
    await found.findAll(".move")[1]?.trigger("click");
    expect(found.emitted("pick")).toEqual([["engine", 0], ["living", 0], ["moves", 1]]); // prettier-ignore
    expect(found.emitted("change")).toBeUndefined();
    expect(found.get(".span.living").attributes("aria-label")).toContain("At anchor");
  });
});
