import { flushPromises, mount } from "@vue/test-utils";
import { createPinia } from "pinia";
import { describe, expect, it, vi } from "vitest";

import type { Schemas } from "@/api/client";
import { vuetify } from "@/app/theme";

import DrillSection, { type Move } from "./DrillSection.vue";

type Played = Schemas["PlayedOut"];

const scene = (key: string, fields: object = {}) =>
  ({
    key,
    head: `Scene ${key}`,
    text: "Do it.",
    goal: "off",
    grade: "hazard",
    times: 0,
    in_a_row: 0,
    due: null,
    is_due: true,
    ...fields,
  }) as Schemas["SceneOut"];

const SWITCH = { switch: "s", name: "Selector", position: "both", mark: "both", place: "Helm" };

/** The selector turned to off with the engine on ends it; anything else goes on. */
function answer(moves: Move[]): Played {
  const off = moves.some((m) => m.do === "turn" && m.position === "off");
  const stopped = moves[0]?.do === "stop";
  const done = moves.at(-1)?.do === "done";
  const outcome = off && !stopped ? "harm" : done ? "right" : "open";
  return {
    engine: stopped ? "off" : "on",
    switches: [{ ...SWITCH, position: off ? "off" : "both" }],
    positions: { s: ["off", "1", "both"].map((position) => ({ position, words: position })) },
    replies: moves.map((m) => ({
      line: { key: "k", head: `You ${m.do}`, text: "So it is.", switches: [], link: "" },
      outcome: "open",
      volts_v: { "House bank": 12.44 },
    })),
    outcome,
    hint: outcome === "harm" ? "Nobody looked." : "",
  };
}

function drill(...scenes: Schemas["SceneOut"][]) {
  const play = vi.fn((_: string, moves: Move[]) => Promise.resolve(answer(moves)));
  const page = mount(DrillSection, {
    props: { scenes, play },
    global: { plugins: [createPinia(), vuetify] },
  });
  const press = async (words: string) => {
    const button = page.findAll("button").find((b) => b.text().startsWith(words));
    if (!button) throw new Error(`no button ${words}`);
    await button.trigger("click");
    await flushPromises();
  };
  return { page, play, press };
}

describe("the drill", () => {
  it("tells what a scene is graded by, and how often it was practised", () => {
    const { page } = drill(scene("a"), scene("b", { times: 2, in_a_row: 1, is_due: false }));
    const [first, second] = page.findAll("li").map((one) => one.text());
    expect(first).toContain("▲ Danger");
    expect(first).toContain("Not practised yet");
    expect(second).toContain("Practised 2 times, 1 right in a row");
    expect(second).not.toContain("due again");
  });

  it("sends every move with those before it, and shows positions in the boat's order", async () => {
    const { page, play, press } = drill(scene("smoke"));
    await press("▲ Danger");
    expect(play).toHaveBeenLastCalledWith("smoke", []);
    const shown = page.findAll("fieldset button").map((b) => b.text());
    expect(shown).toEqual(["off", "1", "both"]);
    expect(page.find('fieldset button[aria-pressed="true"]').text()).toBe("both");
    await press("Stop the engine");
    await press("off");
    expect(play).toHaveBeenLastCalledWith("smoke", [
      { do: "stop" },
      { do: "turn", switch: "s", position: "off" },
    ]);
    expect(page.find(".answers li").text()).toContain("You turn"); // the newest first
    expect(page.find(".volts").text()).toContain("12.4 V");
    await press("So I leave it");
    expect(page.find(".end").text()).toContain("✓ Right");
    expect(page.emitted("over")).toEqual([["smoke", "right", 3]]);
  });

  it("ends where something breaks, tells what went before, and goes on to the next one due", async () => {
    const { page, play, press } = drill(
      scene("smoke"),
      scene("known", { is_due: false }),
      scene("anchor"),
    );
    await press("▲ Danger");
    await press("off");
    expect(page.find(".end").text()).toContain("▲ That does harm");
    expect(page.find(".end").text()).toContain("Nobody looked.");
    expect(page.find("fieldset").exists()).toBe(false); // nothing is turned any more
    await press("Next scene");
    expect(play).toHaveBeenLastCalledWith("anchor", []);
  });
});
