import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { nextTick } from "vue";

import { useNotices } from "@/app/notices";
import { point, scheme } from "@/shared/tests/samples";

import { useBench } from "./benchStore";
import { usePicking } from "./picking";
import { useScheme } from "@/documents/schemeStore";

interface Sent {
  path: string;
  body: Record<string, unknown>;
}

let sent: Sent[] = [];
let answers: Record<string, (call: Sent) => Response> = {};

function json(body: unknown, status = 200): Response {
  const type = status < 400 ? "application/json" : "application/problem+json";
  return new Response(JSON.stringify(body), { status, headers: { "Content-Type": type } });
}

function solved(revision = 1, changes = {}) {
  return json({
    revision,
    state: {},
    point: point(changes),
    reach: {},
    loads_by_bank: {},
    sources_by_bank: {},
  });
}

const FINDINGS = { revision: 1, findings: [], confirm: "confirm in the edition in force" };

async function serve(request: Request): Promise<Response> {
  const path = new URL(request.url).pathname.split("/").at(-1) ?? "";
  const text = await request.text();
  const call = { path, body: text ? JSON.parse(text) : {} };
  sent.push(call);
  const answer = answers[path];
  if (!answer) throw new Error(`nothing answers ${path}`);
  return answer(call);
}

/** Let every answer that is on its way arrive. */
async function settle() {
  for (let n = 0; n < 30; n++) await new Promise((done) => setTimeout(done));
}

function calls(path: string): Sent[] {
  return sent.filter((call) => call.path === path);
}

beforeEach(() => {
  setActivePinia(createPinia());
  sent = [];
  answers = {
    scheme: () => json(scheme()),
    findings: () => json(FINDINGS),
    bench: () => solved(),
    landing: () => json({ posts: ["main.one", "main.common"] }),
  };
  vi.stubGlobal("fetch", serve);
});

async function opened() {
  const schemes = useScheme();
  const bench = useBench();
  await schemes.open("v-1");
  await settle();
  return { schemes, bench };
}

describe("the bench", () => {
  it("starts with the first profile and solves as soon as a variant is open", async () => {
    const { bench } = await opened();
    expect(bench.state.profile).toBe("at_anchor");
    expect(bench.result?.point.totals.stored_a).toBe(5);
    expect(calls("bench")).toHaveLength(1);
  });

  it("asks for the newest conditions only, however fast they change", async () => {
    const { bench } = await opened();
    sent = [];
    for (const rpm of [700, 800, 900, 1000, 1100]) bench.set({ rpm });
    await settle();
    const asked = calls("bench").map((call) => call.body["rpm"]);
    expect(asked.length).toBeLessThan(4);
    expect(asked.at(-1)).toBe(1100);
  });

  it("turns switches round in both directions, the selector first in the row", async () => {
    const { bench } = await opened();
    expect(bench.switches.map((s) => s.id)).toEqual(["main", "bow"]);
    bench.step("main", 1);
    expect(bench.positionOf("main")).toBe("2");
    bench.step("main", 1);
    expect(bench.positionOf("main")).toBe("off");
    bench.step("main", -1);
    expect(bench.positionOf("main")).toBe("2");
    bench.step("nothing", 1);
    expect(Object.keys(bench.state.positions ?? {})).toEqual(["main"]);
  });

  it("remembers how the relays stood for the next question", async () => {
    const { bench } = await opened();
    bench.set({ engine: "on" });
    await settle();
    expect(calls("bench").at(-1)?.body["previous_states"]).toEqual({
      relay: "open",
      lock: "closed",
    });
  });

  it("does not show an answer that belongs to another version", async () => {
    const { bench } = await opened();
    answers["bench"] = () =>
      solved(7, { totals: { given_a: 0, used_a: 0, stored_a: 99, converted_a: 0, lost_w: 0 } });
    bench.set({ shore: true });
    await settle();
    expect(bench.result?.point.totals.stored_a).toBe(5);
  });

  it("says why when a state cannot be solved, and shows no old numbers", async () => {
    const { bench } = await opened();
    const problem = { status: 422, title: "", type: "", detail: "it does not settle", errors: [] };
    answers["bench"] = () => json(problem, 422);
    bench.set({ shore: true });
    await settle();
    expect(bench.result).toBeNull();
    expect(useNotices().notice?.text).toBe("it does not settle");
  });
});

describe("changes", () => {
  it("carry the revision they were made on, and bring findings and bench up to date", async () => {
    const { schemes } = await opened();
    answers["changes"] = () => json(scheme({ revision: 2, can_undo: "Moved it" }));
    answers["bench"] = () => solved(2);
    sent = [];
    expect(await schemes.change({ type: "remove_cable", cable: "feed" })).toBe(true);
    await settle();
    expect(calls("changes")[0]?.body["base_revision"]).toBe(1);
    expect(sent.map((call) => call.path)).toEqual(
      expect.arrayContaining(["changes", "findings", "bench"]),
    );
    expect(schemes.scheme?.can_undo).toBe("Moved it");
  });

  it("keep both versions in a clash and put mine in place when asked", async () => {
    const { schemes } = await opened();
    answers["undo"] = () =>
      json({ status: 409, detail: "saved in between", errors: [], kept_revision: 3 }, 409);
    expect(await schemes.undo()).toBe(false);
    expect(schemes.conflict?.kept_revision).toBe(3);
    answers["scheme"] = () => json(scheme({ revision: 2 }));
    answers["restore"] = () => json(scheme({ revision: 4 }));
    await schemes.settle(true);
    expect(schemes.conflict).toBeNull();
    expect(calls("restore")[0]?.body).toEqual({ base_revision: 2, revision: 3 });
    expect(schemes.scheme?.revision).toBe(4);
  });

  it("show what was saved when mine is left aside", async () => {
    const { schemes } = await opened();
    answers["redo"] = () => json({ status: 409, detail: "", errors: [], kept_revision: 3 }, 409);
    await schemes.redo();
    await schemes.settle(false);
    expect(calls("restore")).toHaveLength(0);
  });

  it("asked for quickly are all made, one after the other", async () => {
    const { schemes } = await opened();
    let revision = 1;
    answers["undo"] = answers["redo"] = () => json(scheme({ revision: (revision += 1) }));
    await Promise.all([schemes.undo(), schemes.undo(), schemes.redo()]);
    const bases = sent.filter((c) => c.path !== "findings" && c.body["base_revision"]);
    expect(bases.map((c) => [c.path, c.body["base_revision"]])).toEqual([
      ["undo", 1],
      ["undo", 2],
      ["redo", 3],
    ]);
  });

  it("that are refused say so and leave the design alone", async () => {
    const { schemes } = await opened();
    const errors = [{ path: "to", message: "this end cannot land there" }];
    answers["changes"] = () => json({ status: 422, detail: "does not fit", errors }, 422);
    expect(await schemes.change({ type: "remove_cable", cable: "nowhere" })).toBe(false);
    expect(useNotices().notice?.details).toEqual(["to: this end cannot land there"]);
    expect(schemes.scheme?.revision).toBe(1);
  });
});

describe("picking", () => {
  it("moves an end to a post that is offered", async () => {
    await opened();
    const picking = usePicking();
    picking.pick("cable", "feed");
    await picking.startMove("feed", "end");
    expect(picking.moving?.posts).toEqual(["main.one", "main.common"]);
    answers["changes"] = () => json(scheme({ revision: 2 }));
    await picking.moveTo("main.one");
    expect(calls("changes")[0]?.body["change"]).toEqual({
      type: "move_cable_end",
      cable: "feed",
      end: "end",
      to: "main.one",
    });
    expect(picking.moving).toBeNull();
  });

  it("is put down in two steps: first the move, then the cable", async () => {
    await opened();
    const picking = usePicking();
    picking.pick("cable", "feed");
    await picking.startMove("feed", "start");
    picking.drop();
    expect([picking.moving, picking.picked?.id]).toEqual([null, "feed"]);
    picking.drop();
    expect(picking.picked).toBeNull();
  });

  it("lets go of what is no longer there", async () => {
    const { schemes } = await opened();
    const picking = usePicking();
    picking.pick("cable", "feed");
    const changed = scheme({ revision: 2 });
    changed.design.cables = changed.design.cables.filter((c) => c.id !== "feed");
    schemes.scheme = changed;
    await nextTick();
    expect(picking.picked).toBeNull();
  });
});
