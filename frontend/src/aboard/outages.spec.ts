import { createPinia, setActivePinia } from "pinia";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { away } from "@/api/connection";
import { useSession } from "@/app/session";
import { useUnsaved, type StageEntry } from "@/documents/unsaved";

import { closed, waitingEntries } from "./device";

/** Numbers from a seed, the same each time (mulberry32). */
function seeded(seed: number) {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A server as ours: each entry once by its id, writes answered again by their key; refuses some. */
class Server {
  entries: string[] = [];
  private answered = new Map<string, number>();

  take(key: string, ids: string[], refuses: boolean): number {
    const before = this.answered.get(key);
    if (before) return before;
    const status = refuses ? 422 : 200;
    if (!refuses) this.entries.push(...ids.filter((id) => !this.entries.includes(id)));
    this.answered.set(key, status);
    return status;
  }
}

/** A device with a disk of its own, whose page can be killed and opened again at any time. */
class Phone {
  made: string[] = [];
  private disk = new IDBFactory();
  private unsaved!: ReturnType<typeof useUnsaved>;

  async open() {
    globalThis.indexedDB = this.disk;
    closed();
    setActivePinia(createPinia());
    const session = {
      signed_in: true,
      username: "anna",
      workshop: "W",
      demo_available: false,
      role: "owner" as const,
      code_wanted: false,
      formats: null,
    };
    useSession().session = session;
    this.unsaved = useUnsaved();
    await this.unsaved.loaded;
  }

  /** Enter something as a stage does; done when it is on the disk. */
  async enter(id: string) {
    const one = { id, kind: "note", target: "t", at: "2026-01-01T00:00:00Z", revision: 1 };
    const entry = this.unsaved.add<StageEntry>({
      sort: "entries",
      stage: "build",
      of: "v",
      entries: [one],
    });
    await this.unsaved.stored(entry);
    this.made.push(id);
    return entry;
  }

  /** Refused at once it is told at once, at the field that still has it. */
  told: string[] = [];
  send = (entry: StageEntry) =>
    void this.unsaved
      .deliver(entry, () => undefined)
      .catch(() => this.told.push(...entry.entries.map((e) => e.id)));
  left = () => this.unsaved.sendLeft();
  refused = () =>
    this.unsaved.refused.flatMap((e) => (e.sort === "entries" ? e.entries.map((x) => x.id) : []));
}

let chance: () => number;
let outage: number;
let server: Server;

/** The network: a request is lost on its way there, or its answer on the way back, or neither. */
async function network(request: Request): Promise<Response> {
  const fate = chance();
  if (fate < outage / 2) throw new TypeError("Failed to fetch");
  const body = (await request.json()) as { entries: { id: string }[] };
  const ids = body.entries.map((e) => e.id);
  const refuses = ids.some((id) => id.endsWith("7"));
  const status = server.take(request.headers.get("Idempotency-Key") ?? "", ids, refuses);
  if (fate < outage) throw new TypeError("Failed to fetch");
  const text = status === 200 ? {} : { title: "No", status, detail: "refused", errors: [] };
  return new Response(JSON.stringify(text), { status });
}

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
  vi.stubGlobal("fetch", network);
});
afterEach(() => {
  away.value = false;
  vi.useRealTimers();
});

async function pass(ms: number) {
  for (let turn = 0; turn < 6; turn += 1) await new Promise((go) => setImmediate(go));
  await vi.advanceTimersByTimeAsync(ms);
}

describe("two phones in random outages", () => {
  it.each(Array.from({ length: 200 }, (_, seed) => seed))(
    "lose nothing and double nothing, sequence %i",
    async (seed) => {
      chance = seeded(seed);
      outage = 0.6;
      server = new Server();
      const phones = [new Phone(), new Phone()];
      let n = 0;
      for (const phone of phones) {
        await phone.open();
        for (let turn = 0; turn < 4; turn += 1) {
          const entry = await phone.enter(`${seed}-${n++}`);
          if (chance() < 0.7) phone.send(entry);
          await pass(chance() * 4000);
          // The page is killed in the middle of it, and opened again.
          if (chance() < 0.3) {
            away.value = false;
            await phone.open();
            if (chance() < 0.5) void phone.left();
          }
        }
        outage = 0; // the network is back
        away.value = false;
        await phone.open();
        const sending = phone.left();
        for (let turn = 0; turn < 6; turn += 1) await pass(20_000);
        await sending;
        outage = 0.6;
        const kept = phone.made.filter((id) => server.entries.includes(id));
        const waits = phone.refused();
        const refused = [...new Set([...waits, ...phone.told])];
        expect(new Set([...kept, ...refused])).toEqual(new Set(phone.made));
        expect(kept.length + refused.length).toBe(phone.made.length);
        expect(refused.every((id) => id.endsWith("7"))).toBe(true);
        // What a killed page was still told may be off the disk; nothing else is left on it.
        expect((await waitingEntries()).length).toBeLessThanOrEqual(waits.length);
      }
      expect(new Set(server.entries).size).toBe(server.entries.length);
    },
  );
});
