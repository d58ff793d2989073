import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Component } from "vue";

import { vuetify } from "@/app/theme";
import { point, scheme } from "@/shared/tests/samples";

import { useBench } from "./benchStore";
import ConflictDialog from "@/stages/frame/ConflictDialog.vue";
import FindDialog from "./FindDialog.vue";
import HistoryDialog from "@/stages/frame/HistoryDialog.vue";
import { usePicking } from "./picking";
import PickSheet from "./PickSheet.vue";
import PositionCard from "./PositionCard.vue";
import { useScheme } from "@/documents/schemeStore";

const ROW = {
  positions: { main: "off" },
  engine: "on",
  fed_by: { panel: [] },
  charged_by: { house: [] },
  charging_a: { house: 0 },
  dead: ["panel"],
  joined: { main: [] as string[][] },
  dangers: [
    { kind: "alternator_cut_off", parts: ["alternator"], words: "Alternator runs with no bank" },
  ],
};
const GOOD = {
  ...ROW,
  positions: { main: "2" },
  fed_by: { panel: ["house"] },
  charged_by: { house: ["alternator"] },
  charging_a: { house: 31.26 },
  dead: [],
  joined: { main: [["two", "common"]] },
  dangers: [],
};
const VERSION = { kind: "change", author: "anna", created: "2026-03-01T09:30:00Z" };
const ANSWERS: Record<string, unknown> = {
  positions: { revision: 1, card: { switches: ["main"], fixed: ["bow"], rows: [ROW, GOOD] } },
  revisions: [
    { ...VERSION, number: 2, words: "Moved the solar", is_head: true },
    { ...VERSION, number: 1, words: "Brought in", is_head: false },
  ],
  restore: scheme({ revision: 3 }),
  findings: { revision: 3, findings: [], confirm: "" },
  landing: { posts: ["main.one"] },
};
let asked: string[] = [];

beforeEach(() => {
  setActivePinia(createPinia());
  asked = [];
  vi.stubGlobal("visualViewport", new EventTarget());
  vi.stubGlobal("fetch", async (request: Request) => {
    const what = new URL(request.url).pathname.split("/").at(-1) ?? "";
    asked.push(what);
    const headers = { "Content-Type": "application/json" };
    return new Response(JSON.stringify(ANSWERS[what] ?? {}), { headers });
  });
  const schemes = useScheme();
  schemes.scheme = scheme();
});
afterEach(() => {
  document.body.innerHTML = "";
});

/** Open a dialog and give the page's text once everything has arrived. */
async function shown(dialog: Component): Promise<string> {
  const host = mount(dialog, {
    global: { plugins: [vuetify], stubs: { transition: false } },
    props: { modelValue: false },
    attachTo: document.body,
  });
  await host.setProps({ modelValue: true });
  for (let n = 0; n < 10; n++) await flushPromises();
  return words();
}

function words(): string {
  return document.body.textContent?.replace(/\s+/g, " ") ?? "";
}

function press(name: string) {
  const button = [...document.querySelectorAll("button")].find(
    (b) => b.textContent?.includes(name) || b.getAttribute("aria-label")?.includes(name),
  );
  if (!button) throw new Error(`there is no button ${name}`);
  button.click();
}

describe("the position card", () => {
  it("says what each position feeds, charges, leaves dead and endangers", async () => {
    const text = await shown(PositionCard);
    expect(text).toContain("▲ Alternator runs with no bank");
    // What an ohmmeter finds with the cables off.
    expect(words()).toContain("no posts joined");
    expect(words()).toContain("two – common");
    expect(text).toContain("+31.3 A");
    expect(text).toContain("from Alternator");
    expect(text).toContain("feeds House panel");
    expect(text).toContain("Left as they stand: bow");
    expect(document.querySelectorAll("tr.bad")).toHaveLength(1);
  });

  it("sets the bench to a row", async () => {
    await shown(PositionCard);
    document.querySelectorAll<HTMLButtonElement>("tbody button")[1]?.click();
    expect(useBench().positionOf("main")).toBe("2");
    expect(useBench().state.engine).toBe("on");
  });
});

describe("the history", () => {
  it("goes back to any version but the one that stands", async () => {
    const text = await shown(HistoryDialog);
    expect(text).toContain("2 Moved the solar");
    expect(text).toContain("as it stands");
    press("Go back to version 1");
    await flushPromises();
    await flushPromises();
    expect(asked).toContain("restore");
  });
});

describe("finding a part", () => {
  it("looks through parts and cables by any bit of their name, and picks", async () => {
    await shown(FindDialog);
    const input = document.querySelector("input");
    if (!input) throw new Error("nothing to type in");
    input.value = "house panel";
    input.dispatchEvent(new Event("input"));
    await flushPromises();
    const found = [...document.querySelectorAll(".v-list-item-title")].map((t) => t.textContent);
    expect(found).toEqual(["House panel", "Bar to House panel +"]);
    input.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
    expect(usePicking().picked).toEqual({ kind: "part", id: "panel" });
  });
});

describe("a clash", () => {
  it("tells what was saved and where mine is", async () => {
    const schemes = useScheme();
    schemes.conflict = {
      type: "about:blank",
      title: "Saved in between",
      status: 409,
      detail: "As found was saved in between. Yours is kept as version 3.",
      errors: [],
      kept_revision: 3,
      saved_meanwhile: ["Moved the solar"],
    };
    const text = await shown(ConflictDialog);
    expect(text).toContain("Moved the solar");
    expect(text).toContain("Both versions are kept");
    expect(text).toContain("Put mine in its place");
  });
});

describe("what is picked", () => {
  function sheet() {
    useBench().result = { point: point() } as never; // only what the sheet looks at
    return mount(PickSheet, { global: { plugins: [vuetify] }, attachTo: document.body });
  }

  it("shows a cable with amps, drop, size and length, and where its ends can go", async () => {
    usePicking().pick("cable", "feed");
    sheet();
    expect(words()).toContain("9.2 A drop 0.04 V");
    expect(words()).toContain("2 AWG · 2.0 m · 6.6 ft one way");
    press("Move the end at House bank +");
    await flushPromises();
    await flushPromises();
    expect(words()).toContain("Pick the post");
    expect(words()).toContain("negative off first");
    expect(words()).toContain("main.one");
  });

  it("lets a bank's charge be set on the bench", async () => {
    usePicking().pick("part", "house");
    const found = sheet();
    expect(found.text()).toContain("58 %");
    expect(found.text()).toContain("CCA not known");
    await found.get("input[type=range]").setValue("0.3");
    expect(useBench().state.soc).toEqual({ house: 0.3 });
  });
});
