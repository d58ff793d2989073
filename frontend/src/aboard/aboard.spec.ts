import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { api, onReads, unwrap, type Schemas } from "@/api/client";
import { away } from "@/api/connection";

import * as answers from "./answers";
import { closed, keepTaken, letGo, wipe } from "./device";
import { states } from "./takeAboard";

const AT_REST = { engine: "off", rpm: 1400, positions: {} } as unknown as Schemas["State"];
let there = true;
let asked: string[] = [];

async function serve(request: Request): Promise<Response> {
  asked.push(new URL(request.url).pathname);
  if (!there) throw new TypeError("Failed to fetch");
  const body = request.method === "POST" ? ((await request.json()) as object) : {};
  return new Response(JSON.stringify({ revision: 3, ...body }));
}

const taken = (person: string, job: string, ids: string[]) =>
  keepTaken({ person, job, variant: "v", name: "Wren", ids, at: "", bytes: 0, answers: 0 });
const scheme = (id: string) =>
  unwrap(
    api.GET("/api/variants/{variant_id}/scheme", { params: { path: { variant_id: id } } }),
  ) as Promise<{ revision: number }>;
const bench = (state: object) =>
  unwrap(
    api.POST("/api/variants/{variant_id}/bench", {
      params: { path: { variant_id: "v-1" } },
      body: { ...AT_REST, ...state },
    }),
  ) as unknown as Promise<{ engine: string }>;

beforeEach(async () => {
  closed();
  globalThis.indexedDB = new IDBFactory();
  [there, asked] = [true, []];
  vi.stubGlobal("fetch", serve);
  vi.spyOn(navigator, "onLine", "get").mockImplementation(() => there);
  onReads(answers);
  await taken("anna", "j-1", ["j-1", "v-1"]);
  await answers.answersOf("anna");
});
afterEach(() => {
  away.value = false;
  answers.asOf.value = null;
  vi.restoreAllMocks();
});

describe("answers of a boat aboard", () => {
  it("are given when no other comes, and say as of when", async () => {
    expect((await scheme("v-1")).revision).toBe(3);
    expect(answers.asOf.value).toBeNull();
    there = false;
    expect((await scheme("v-1")).revision).toBe(3);
    expect(away.value).toBe(true);
    expect(answers.asOf.value).not.toBeNull();
    asked = [];
    await scheme("v-1");
    expect(asked).toHaveLength(1); // away is known: nobody waits for a second try
  });

  it("are those of its ids alone", async () => {
    await scheme("v-2");
    there = false;
    await expect(scheme("v-2")).rejects.toThrow("does not answer");
  });

  it("are found by what is set on the bench, whatever relays did before", async () => {
    await bench({ engine: "on", positions: { b: "1", a: "2" } });
    there = false;
    const again = { positions: { a: "2", b: "1" }, engine: "on", previous_states: { r: "closed" } };
    expect((await bench(again as object)).engine).toBe("on");
    await expect(bench({ engine: "on", positions: { a: "1" } })).rejects.toThrow("does not answer");
  });

  it("are never shown to somebody else, and go when they are let go or wiped", async () => {
    await scheme("v-1");
    there = false;
    await taken("bo", "j-1", ["j-1", "v-1"]);
    await answers.answersOf("bo");
    await expect(scheme("v-1")).rejects.toThrow("does not answer");
    await wipe("bo");
    await answers.answersOf("anna");
    expect((await scheme("v-1")).revision).toBe(3); // hers are not his to wipe
    await letGo("anna", "j-1");
    await answers.lookAgain();
    expect(answers.taken.value).toEqual([]);
    await expect(scheme("v-1")).rejects.toThrow("does not answer");
  });
});

describe("states that are taken along", () => {
  const boat = (...counts: number[]) =>
    ({
      switches: counts.map((n, i) => ({
        id: `s${i}`,
        position: "p0",
        positions: Array.from({ length: n }, (_, k) => `p${k}`),
      })),
    }) as unknown as Schemas["SchemeOut"];

  it("are all combinations where those are few, each switch by itself where not", () => {
    expect(states(boat(4, 2), AT_REST)).toHaveLength(4 * 2 * 2);
    // Seven switches of two: 256 combinations; at rest and each turned, engine off and on.
    expect(states(boat(2, 2, 2, 2, 2, 2, 2), AT_REST)).toHaveLength((1 + 7) * 2);
    const turned = states(boat(2), AT_REST).map((s) => [s.engine, s.positions]);
    expect(turned).toEqual([
      ["off", {}],
      ["on", {}],
      ["off", { s0: "p1" }],
      ["on", { s0: "p1" }],
    ]);
  });
});
