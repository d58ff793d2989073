import { flushPromises, mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { vuetify } from "@/app/theme";
import { useScheme } from "@/documents/schemeStore";
import { design, point, scheme } from "@/shared/tests/samples";

import { useBench } from "./benchStore";
import ParkedStrip from "./ParkedStrip.vue";
import { usePicking } from "./picking";
import PickSheet from "./PickSheet.vue";
import { useWiring } from "./wiring";

const EDITS = {
  revision: 1,
  insert: [{ kind: "fuse", words: "Fuse" }],
  before_switch: [{ end: "end", post: "main.two" }],
  swap: [{ kind: "relay", words: "Combining relay" }],
  posts: [{ post: "house.pos", stack: ["feed", "run"], gathers: true }],
};
let sent: { path: string; body: Record<string, unknown> }[] = [];

beforeEach(() => {
  setActivePinia(createPinia());
  sent = [];
  vi.stubGlobal("visualViewport", new EventTarget());
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = new URL(request.url).pathname;
    if (request.method === "POST") sent.push({ path, body: JSON.parse(await request.text()) });
    const answers: Record<string, unknown> = {
      edits: EDITS,
      edit: scheme({ revision: 2, can_undo: "Put in Fuse 1" }),
      changes: scheme({ revision: 2, can_undo: "Parked it" }),
      landing: { posts: ["main.one"] },
      joinable: { posts: ["main.one", "main.two"] },
      findings: { revision: 2, findings: [], confirm: "" },
    };
    const answer = answers[path.split("/").at(-1) ?? ""] ?? {};
    return new Response(JSON.stringify(answer), {
      headers: { "Content-Type": "application/json" },
    });
  });
  useScheme().scheme = scheme();
});
afterEach(() => {
  document.body.innerHTML = "";
});

async function picked(kind: "cable" | "part", id: string) {
  useBench().result = { point: point() } as never; // what the sheet looks at
  usePicking().pick(kind, id);
  const sheet = mount(PickSheet, {
    global: { plugins: [vuetify], stubs: { transition: false } },
    attachTo: document.body,
  });
  for (let n = 0; n < 5; n++) await flushPromises();
  return sheet;
}

async function press(words: string) {
  const all = [...document.querySelectorAll<HTMLElement>("button, .v-list-item")];
  const named = (b: HTMLElement) =>
    `${b.textContent} ${b.getAttribute("aria-label") ?? ""}`.replace(/\s+/g, " ");
  const found = all.find((b) => named(b).includes(words));
  if (!found) throw new Error(`there is no button ${words}`);
  found.click();
  for (let n = 0; n < 5; n++) await flushPromises();
}

const changes = () => sent.filter((s) => s.path.endsWith("changes")).map((s) => s.body["change"]);

describe("a picked cable", () => {
  it("offers what the server says can be done", async () => {
    await picked("cable", "feed");
    await press("Put a part in");
    await press("Fuse");
    expect(sent.find((s) => s.path.endsWith("/edit"))?.body).toEqual({
      base_revision: 1,
      edit: "insert",
      at: "feed",
      kind: "fuse",
    });
  });

  it("is taken before the switch, parked, or taken out", async () => {
    await picked("cable", "feed");
    await press("Take it before the switch, to Main selector two");
    await press("Park the end at House bank +");
    await press("Take the cable out");
    expect(changes()).toEqual([
      { type: "move_cable_end", cable: "feed", end: "end", to: "main.two" },
      { type: "park_end", cable: "feed", end: "start" },
      { type: "remove_cable", cable: "feed" },
    ]);
  });
});

describe("a picked part", () => {
  it("shows what is stacked on each post and lets the order be changed", async () => {
    const sheet = await picked("part", "house");
    const lugs = sheet.findAll(".stack li");
    expect(lugs).toHaveLength(2);
    expect(lugs[0]?.text()).toContain("2 AWG: House bank + to Main selector two");
    await press("Further from the seat: House bank + to Main selector two");
    expect(changes()).toEqual([
      { type: "stack_cables", post: "house.pos", cables: ["run", "feed"] },
    ]);
  });

  it("is swapped for another kind, and a crowded post is split", async () => {
    await picked("part", "main");
    await press("Split onto a fused bus");
    await press("Swap it for another kind");
    await press("Combining relay");
    expect(sent.filter((s) => s.path.endsWith("/edit")).map((s) => s.body)).toEqual([
      { base_revision: 1, edit: "gather", at: "house.pos", kind: "fuse_block" },
      { base_revision: 2, edit: "swap", at: "main", kind: "relay" },
    ]);
  });

  it("starts a new cable from a post, landed on one that is picked", async () => {
    await picked("part", "house");
    await press("Run a cable from House bank +");
    expect(usePicking().moving).toMatchObject({
      from: "house.pos",
      posts: ["main.one", "main.two"],
    });
    await press("Main selector two");
    expect(changes()).toEqual([
      {
        type: "add_cable",
        cable: {
          id: "new_cable",
          start: "house.pos",
          end: "main.two",
          gauge: "6 AWG",
          length_m: 1.5,
          estimated: true,
        },
      },
    ]);
  });

  it("says why a relay stands as it does", async () => {
    const sheet = await picked("part", "relay");
    expect(sheet.text()).toContain("It sees 13.72 V open; once closed 12.40 V.");
  });

  it("runs what is brief only when asked", async () => {
    const bench = useBench();
    const set = vi.spyOn(bench, "set");
    const panel = await picked("part", "panel");
    expect(panel.text()).toContain("Run now");
    await press("Refrigerator");
    expect(set).toHaveBeenCalledWith({ running: ["panel.fridge"] });
  });
});

describe("parked cables", () => {
  const hanging = { ...design().cables[0], start: null };

  it("are seen, and landed on a post that is picked", async () => {
    useScheme().scheme = scheme({ design: { ...design(), parked: [hanging] } as never });
    const strip = mount(ParkedStrip, { global: { plugins: [vuetify] }, attachTo: document.body });
    expect(strip.text()).toContain("2 AWG: hangs to Main selector two");
    await press("Land it");
    expect(usePicking().moving).toMatchObject({ cable: "feed", end: "start", parked: true });
    expect(strip.text()).toContain("Pick the post");
    await usePicking().moveTo("main.one");
    expect(changes()).toEqual([
      { type: "land_parked", cable: "feed", end: "start", to: "main.one" },
    ]);
  });

  it("take no room where there are none", () => {
    const strip = mount(ParkedStrip, { global: { plugins: [vuetify] } });
    expect(strip.find("section").exists()).toBe(false);
  });
});

describe("conditions of what is gone", () => {
  it("are not asked of the server", async () => {
    const bench = useBench();
    bench.state = {
      ...bench.state,
      positions: { main: "1", swapped: "on" },
      soc: { house: 0.5, sold: 0.1 },
      running: ["panel.fridge", "sold.pump"],
    };
    await bench.run();
    await flushPromises();
    const asked = sent.filter((s) => s.path.endsWith("bench")).at(-1)?.body;
    expect(asked).toMatchObject({
      positions: { main: "1" },
      soc: { house: 0.5 },
      running: ["panel.fridge"],
    });
  });

  it("edits are those of what is picked last", async () => {
    await picked("part", "main");
    expect(useWiring().edits?.swap).toHaveLength(1);
    usePicking().drop();
    await flushPromises();
    expect(useWiring().edits).toBeNull();
  });
});
