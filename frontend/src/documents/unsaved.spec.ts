import { flushPromises } from "@vue/test-utils";
import { IDBFactory } from "fake-indexeddb";
import { createPinia, setActivePinia } from "pinia";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { closed, waitingEntries } from "@/aboard/device";
import { away } from "@/api/connection";
import { useSession } from "@/app/session";

import { useSurvey } from "./surveyStore";
import { useUnsaved } from "./unsaved";

/** A server that can be away, with a survey that keeps what it is told once for each id. */
let there = true;
let sent: { key: string | null; base: number }[] = [];
let revision = 1;
let refuse = false;
const kept = new Map<string, number>();
const SURVEY = { boat: { coldest_c: 4, length_m: 9 }, items: [{ id: "fridge", draw: 4 }] };

async function serve(request: Request): Promise<Response> {
  if (!there) throw new TypeError("Failed to fetch");
  const body = (text: object, status = 200) => new Response(JSON.stringify(text), { status });
  if (request.method !== "GET") {
    const key = request.headers.get("Idempotency-Key") ?? "";
    sent.push({ key, base: (await request.json()).base_revision });
    if (refuse) {
      return body({ title: "No", status: 422, detail: "999 is too cold", errors: [] }, 422);
    }
    if (!kept.has(key)) kept.set(key, (revision += 1));
  }
  return body({ job: "j-1", revision, survey: SURVEY, loads: null });
}

/** An empty device, as new. */
async function clearDevice() {
  closed();
  globalThis.indexedDB = new IDBFactory();
}

function begin() {
  setActivePinia(createPinia());
  useSession().session = {
    signed_in: true,
    username: "anna",
    workshop: "Harbour",
    demo_available: false,
    role: "owner",
    code_wanted: false,
    formats: null,
  };
}

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "setInterval", "Date"] });
  localStorage.clear();
  await clearDevice();
  [there, sent, revision, refuse] = [true, [], 1, false];
  kept.clear();
  vi.stubGlobal("fetch", serve);
  begin();
  await useSurvey().open("j-1");
});
afterEach(() => {
  away.value = false;
  vi.useRealTimers();
});

/** Time passes; the device's own disk takes no part of it, only turns of the loop. */
async function pass(ms: number) {
  for (let part = 0; part < 10; part += 1) {
    for (let turn = 0; turn < 8; turn += 1) await new Promise((go) => setImmediate(go));
    await vi.advanceTimersByTimeAsync(ms / 10);
  }
}

describe("entries while the server is away", () => {
  it("are counted, shown as entered, and sent once each in their order when it is back", async () => {
    const surveys = useSurvey();
    const unsaved = useUnsaved();
    there = false;
    const first = surveys.set("boat", { coldest_c: -3 });
    const second = surveys.put("items", { id: "fridge", draw: 5 });
    await pass(4000);
    expect(unsaved.count).toBe(2);
    expect(surveys.survey?.boat.coldest_c).toBe(-3);
    expect(surveys.survey?.items[0]?.draw).toBe(5);
    there = true;
    await pass(9000);
    expect(await Promise.all([first, second])).toEqual([true, true]);
    expect(kept.size).toBe(2);
    expect(unsaved.count).toBe(0);
    expect(await waitingEntries()).toEqual([]);
  });

  it("survive a reload, and the next page sends them with the ids that they had", async () => {
    there = false;
    void useSurvey().set("boat", { coldest_c: -3 });
    await pass(4000);
    begin(); // another page, on the same device
    const unsaved = useUnsaved();
    await unsaved.loaded;
    expect(unsaved.count).toBe(1);
    const { key } = unsaved.waiting[0] ?? {};
    there = true;
    sent = [];
    await unsaved.sendLeft();
    expect(sent[0]?.key).toBe(key);
    expect(unsaved.count).toBe(0);
  });

  it("are not those of somebody else on the same device", async () => {
    there = false;
    void useSurvey().set("boat", { coldest_c: -3 });
    await pass(100);
    begin();
    useSession().$patch({ session: { username: "bo" } });
    await useUnsaved().loaded;
    expect(useUnsaved().count).toBe(0);
  });

  it("are kept to be read when the server refuses them after all", async () => {
    there = false;
    const saving = useSurvey().set("boat", { coldest_c: 999 });
    await pass(4000);
    [there, refuse] = [true, true];
    await pass(9000);
    expect(await saving).toBe(false);
    await flushPromises();
    expect(useUnsaved().refused.map((e) => e.refused)).toEqual(["999 is too cold"]);
  });
});
