import { mount } from "@vue/test-utils";
import { describe, expect, it, vi } from "vitest";
import { ref } from "vue";

import { vuetify } from "@/app/theme";

import LiveNow from "./LiveNow.vue";
import StackPicture from "./StackPicture.vue";
import StepsSection from "./StepsSection.vue";
import type { Build } from "./useBuild";

const POST = { post: "house.pos", name: "House bank +", bank: "house", volts_v: 12.85, amps: 9852 };
const PLAIN = { phase: "fit", place: null, needs: [], minutes: 12, caution: "", stacks: [] };

function step(key: string, live: (typeof POST)[], more: object = {}) {
  const own = {
    key,
    title: `Step ${key}`,
    doing: [{ key: `${key}#1`, words: `Do ${key}` }],
    actions: [],
    live,
    dead: [],
  };
  return { ...PLAIN, ...own, stop: "alive", why_no_stop: "", ...more };
}

function steps(ticks: Record<string, object> = {}) {
  const list = [step("a", []), step("b", [POST], { dead: ["Bilge pump"], stop: "dead" })];
  const build = {
    book: { order: { start: [POST], steps: list } },
    state: { ticks, notes: [], photos: [], next_step: "b" },
  } as unknown as Build;
  const tick = vi.fn(() => Promise.resolve(true));
  const enter = vi.fn(() => Promise.resolve(true));
  const stage = { tick, enter, sending: ref(false) } as never;
  const page = mount(StepsSection, {
    props: { build, stage },
    global: { stubs: { PhotosOf: true }, plugins: [vuetify] },
  });
  const press = (words: string) =>
    page
      .findAll("button")
      .find((one) => one.text() === words)
      ?.trigger("click");
  return { page, tick, enter, press };
}

describe("the stage Build", () => {
  it("says what is live before the step, and what the step makes live", () => {
    const { page } = steps();
    expect(page.find("h2").text()).toBe("Step b");
    expect(page.find(".live").text()).toContain("Nothing is live now");
    expect(page.find(".live").text()).toContain("1 more are live after this step");
    expect(page.text()).toContain("Dead meanwhile: Bilge pump");
  });

  it("ticks lines and steps by their keys", async () => {
    const { page, tick, press } = steps();
    await page.find("input[type=checkbox]").trigger("change");
    expect(tick).toHaveBeenCalledWith("b#1", true);
    await press("Step done");
    expect(tick).toHaveBeenCalledWith("b", true);
  });

  it("marks a tick of an earlier revision and takes it back", async () => {
    const at = "2026-11-29T10:00:00Z";
    const { page, tick, press } = steps({ b: { done: true, at, author: "anna", outdated: true } });
    expect(page.find(".who").text()).toContain("on an earlier revision");
    await press("Not done after all");
    expect(tick).toHaveBeenCalledWith("b", false);
  });

  it("shows the strongest posts first and the others on demand", () => {
    const posts = Array.from({ length: 6 }, (_, n) => ({ ...POST, post: `p${n}` }));
    const text = mount(LiveNow, { props: { posts, after: [] } }).text();
    expect(text).toContain("Live now: 6 posts");
    expect(text).toContain("12.85 V, 9852 A into a short");
    expect(text).toContain("6 fewer");
    expect(text).toContain("All 6");
  });

  it("draws a stack with the seat at the bottom", () => {
    const stack = { post: "House bank +", lugs: ["001+", "002+"], stud: "M8", torque: "9 N m" };
    const drawn = mount(StackPicture, { props: { stack } }).findAll(".lug, .seat, .nut");
    expect(drawn.map((one) => one.text())).toEqual(["nut, lock washer", "002+", "001+", "seat"]);
  });
});
