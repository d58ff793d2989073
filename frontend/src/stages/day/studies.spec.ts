import { flushPromises } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { api } from "@/api/client";
import { ready, show } from "@/shared/tests/stage";

import CompareSection from "./CompareSection.vue";
import { useDay } from "./dayStore";
import SlipSection from "./SlipSection.vue";
import StudyProgress from "./StudyProgress.vue";
import { PLAN, study } from "./tests/samples";

beforeEach(() => {
  setActivePinia(createPinia());
  document.body.innerHTML = "";
});

describe("the comparison", () => {
  it("asks for what is chosen, shows each day by its worst, and leads to it", async () => {
    const { open } = ready();
    const day = useDay();
    open.job = { variants: [{ id: "v-1", name: "As found" }, { id: "v-2", name: "Relay" }] } as never; // prettier-ignore
    day.plans = {
      plans: [{ id: "p-1", document: PLAN }],
      schools: ["a", "b", "c", "d"].map((id) => ({ id, name: `School ${id}`, habit: "" })),
    } as never;
    day.asked = { plan: "p-1", school: null, case: null };
    const outcome = {
      rank: "stranded",
      stranded: true,
      started: 1,
      starts: 2,
      weakest_v: 8.71,
      lowest_engine_soc: 0.44,
      house_end_soc: null,
      relay_closures: 3,
      hot_h: 0.5,
      moves_a_day: 2,
      hazards: [],
      unmet: [
        { name: "CO alarm", hours: 2 },
        { name: "Refrigerator", hours: 0.3 },
      ],
    };
    const cell = (variant: string, more = {}) => ({
      variant, plan: "p-1", school: "a", status: "done", outcome: null, why_not: null, ...more,
    }); // prettier-ignore
    const cells = [cell("v-1", { outcome }), cell("v-2", { why_not: "no selector" })];
    const post = vi.spyOn(api, "POST").mockResolvedValue({
      data: study({ kind: "comparison" }),
      response: new Response(),
    } as never);
    vi.spyOn(api, "GET").mockResolvedValue({ data: { cells }, response: new Response() } as never);
    const { found, words, press } = show(CompareSection);
    await found.findAll("input")[2]?.trigger("change"); // school A is not asked for
    await press("Run 6 days");
    await flushPromises();
    expect(post.mock.calls[0]?.[1]).toMatchObject({
      body: { variants: ["v-1", "v-2"], schools: ["b", "c", "d"], plans: ["p-1"] },
    });
    for (const text of [
      "Stranded 1/2",
      "8.71 V",
      "44 %",
      "3 times",
      "CO alarm goes without for 2.0 h, 1 more too",
      "Not on this boat: no selector",
    ]) {
      expect(words()).toContain(text);
    }
    await press("Stranded");
    expect(found.emitted("cell")).toEqual([["v-1", "p-1", "a"]]);
  });

  it("says how far a study is, and cancels it", async () => {
    ready();
    const cancel = vi.spyOn(useDay(), "cancel").mockResolvedValue(undefined as never);
    const running = study({ status: "running", done: 3, of: 60, progress: 0.05 });
    const { found, words, press } = show(StudyProgress, { study: running, what: "Comparison" });
    expect(words()).toContain("Comparison: 3 of 60");
    expect(found.get("progress").attributes("value")).toBe("5");
    await press("Cancel");
    expect(cancel).toHaveBeenCalledWith("s-1");
    await found.setProps({ study: study({ status: "cancelled", done: 3, of: 60 }) });
    expect(words()).toBe("Comparison: cancelled after 3 of 60");
    await found.setProps({ study: study() });
    expect(words()).toBe("");
  });
});

describe("the slip test", () => {
  it("lists consequences gravest first, hides harmless ones, and leads to their day", async () => {
    ready();
    const day = useDay();
    day.asked = { plan: "p-1", school: null, case: null };
    day.studies = [study()];
    const one = (key: string, rank: string, story: string) => ({
      key,
      kind: "omitted",
      words: `At 09:00 nobody turns ${key}.`,
      status: "done",
      problem: null,
      consequence: { rank, weight: 1, story },
      outcome: { weakest_v: 8.7, lowest_engine_soc: 0.44 },
    });
    vi.spyOn(api, "GET").mockResolvedValue({
      data: {
        study: study(),
        planned: null,
        cases: [one("a", "stranded", "It does not start."), one("b", "none", "Nothing follows.")],
      },
      response: new Response(),
    } as never);
    const askCase = vi.spyOn(day, "askCase").mockResolvedValue();
    const { found, words, press } = show(SlipSection);
    await flushPromises();
    expect(words()).toContain("▲ Stranded");
    expect(words()).toContain("engine bank lowest 44 %");
    expect(words()).not.toContain("Nothing follows.");
    await press("Show 1 from which");
    expect(words()).toContain("Nothing follows.");
    await press("nobody turns a");
    expect(found.emitted("day")).toHaveLength(1);
    expect(askCase).toHaveBeenCalledWith("a");
  });
});

describe("the store", () => {
  it("asks after a study until it is settled, and keeps what was refused to be mended", async () => {
    ready();
    const day = useDay();
    const answers = [study({ status: "running" }), study({ status: "done" })];
    vi.spyOn(api, "GET").mockImplementation(
      async () => ({ data: answers.shift(), response: new Response() }) as never,
    );
    const told: string[] = [];
    const settled = await day.untilSettled(study({ status: "waiting" }), (s) =>
      told.push(s.status),
    );
    expect([settled.status, told]).toEqual(["done", ["running", "done"]]);
    day.plans = { plans: [{ id: "p-1", school: "a", revision: 1 }] } as never;
    day.asked = { plan: "p-1", school: null, case: null };
    const problem = { status: 422, detail: "no", errors: [{ path: "hours", message: "too long" }] };
    vi.spyOn(api, "PUT").mockResolvedValue({
      error: problem,
      response: new Response(null, { status: 422 }),
    } as never);
    expect(await day.keep(PLAN, "a")).toBe(false);
    expect(day.refused?.errors).toEqual(["hours: too long"]);
  });
});
