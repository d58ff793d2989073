/** What was entered and is not saved yet: kept on this device, counted, and sent by itself. */
import { defineStore } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";

import { api, isUnknown, ProblemError, unwrap } from "@/api/client";
import { dropEntry, keepEntry, waitingEntries } from "@/aboard/device";
import { away } from "@/api/connection";
import { newId, windowId, writeHeaders } from "@/api/sending";
import { useSession } from "@/app/session";

import type { Change, DesignChange, SurveyChange } from "./saved";

export type Sort = "survey" | "variant";
export type Stage = "build" | "prove" | "log" | "handover";

interface Common {
  key: string;
  window: string;
  person: string;
  /** When it was entered: they are sent in this order. */
  order: number;
  /** What it is of: a job, or a variant. */
  of: string;
  /** Why the server refused it: it is kept to be read, and is not sent again. */
  refused?: string;
}
/** A named change on its way; `sort` and `of` say of which document. */
export interface DocumentEntry extends Common {
  sort: Sort;
  base: number;
  change: Change;
  loadsOf: string | null;
}
/** What was entered aboard in a stage, with ids of this device. */
export interface StageEntry extends Common {
  sort: "entries";
  stage: Stage;
  entries: StageValue[];
}
export interface StageValue {
  id: string;
  kind: string;
  target: string;
  at: string;
  revision: number;
}
/** A photograph of a job, with an id of this device. */
export interface PhotoEntry extends Common {
  sort: "photo";
  photo: string;
  /** What it shows; an earlier version of the program kept none. */
  caption?: string;
  blob: Blob;
}
export type Entry = DocumentEntry | StageEntry | PhotoEntry;
type Fresh<T> = T extends unknown ? Omit<T, "key" | "window" | "person" | "order"> : never;

const BEFORE = "strom.unsaved"; // where an earlier version kept them
const LONGEST_MS = 15000;
const RETRY_MS = [1000, 2000, 4000, 8000, LONGEST_MS];
const SENDER = "strom sender";

/** What waits on this device; what an earlier version of the program kept elsewhere goes first. */
async function read(): Promise<Entry[]> {
  const before = keptBefore().map((entry, order) => ({ ...entry, order }));
  for (const entry of before) await keepEntry(entry);
  localStorage.removeItem(BEFORE);
  const known = new Set(before.map((entry) => entry.key));
  return [...before, ...(await waitingEntries<Entry>()).filter((e) => !known.has(e.key))];
}

function keptBefore(): Entry[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(BEFORE) ?? "[]");
    return Array.isArray(found) ? (found as Entry[]) : [];
  } catch {
    return [];
  }
}

/** Send an entry; the answer is that of its document or stage. */
export function post(entry: Entry): Promise<unknown> {
  const headers = writeHeaders(entry.key, entry.window);
  if (entry.sort === "entries") {
    const params = { path: { variant_id: entry.of } };
    const body = { entries: entry.entries };
    return unwrap(
      api.POST(`/api/variants/{variant_id}/${entry.stage}/entries`, {
        params,
        headers,
        body: body as never,
      }),
    );
  }
  if (entry.sort === "photo") {
    return unwrap(
      api.POST("/api/jobs/{job_id}/photos", {
        params: {
          path: { job_id: entry.of },
          query: { photo: entry.photo, caption: entry.caption ?? "" },
        },
        body: entry.blob as never,
        bodySerializer: (body: unknown) => body,
        headers: { ...headers, "Content-Type": "application/octet-stream" },
      }),
    );
  }
  if (entry.sort === "survey") {
    const params = { path: { job_id: entry.of } };
    const change = entry.change as SurveyChange;
    const whole = { base_revision: entry.base, change, loads_of: entry.loadsOf };
    return unwrap(api.POST("/api/jobs/{job_id}/survey/changes", { params, headers, body: whole }));
  }
  const params = { path: { variant_id: entry.of } };
  const body = { base_revision: entry.base, change: entry.change as DesignChange };
  return unwrap(api.POST("/api/variants/{variant_id}/changes", { params, headers, body }));
}

export const useUnsaved = defineStore("unsaved", () => {
  const session = useSession();
  const all = shallowRef<Entry[]>([]);
  /** Whether this device could not keep an entry: it is full, or keeps nothing. */
  const full = ref(false);
  /** What an earlier page left behind is there. */
  const loaded = read()
    .then((found) => (all.value = [...found, ...all.value]))
    .catch(() => (full.value = true));
  /** Writes that have no entry of their own, such as an undo: they wait in this window alone. */
  const others = ref(0);
  let tried = 0;
  let wake: (() => void) | null = null;

  const mine = computed(() => all.value.filter((e) => e.person === session.session?.username));
  const waiting = computed(() => mine.value.filter((e) => !e.refused));
  const refused = computed(() => mine.value.filter((e) => e.refused));
  const count = computed(() => waiting.value.length + others.value);

  let latest = 0;
  const writing = new Map<string, Promise<void>>();

  /** Take an entry: it is in sight at once, and `stored` tells when it is on the disk. */
  function add<T extends Entry>(fields: Fresh<T>): T {
    const person = session.session?.username ?? "";
    latest = Math.max(latest + 1, Date.now());
    const entry = {
      key: newId(),
      window: windowId,
      person,
      order: latest,
      ...fields,
    } as unknown as T;
    all.value = [...all.value, entry];
    keep(entry);
    return entry;
  }

  function keep(entry: Entry) {
    const before = writing.get(entry.key) ?? Promise.resolve();
    const write = before
      .then(() => keepEntry(entry))
      .then(
        () => void (full.value = false),
        () => void (full.value = true),
      );
    writing.set(entry.key, write);
  }

  /** Done once an entry is on the disk, or it is known that this device cannot keep it. */
  const stored = (entry: Entry) => writing.get(entry.key) ?? Promise.resolve();

  function drop(entry: Entry) {
    all.value = all.value.filter((e) => e.key !== entry.key);
    void stored(entry)
      .then(() => dropEntry(entry.key))
      .catch(() => undefined)
      .finally(() => writing.delete(entry.key));
  }

  /** Entries of stages and photographs go out one after another, across all of them. */
  let queue: Promise<unknown> = Promise.resolve();

  /** Send an entry in its turn. Done when it is sent, or kept because no answer comes: then it is
   * sent later, and `taken` is told. Throws what the server refuses at once. */
  async function deliver(entry: Entry, taken: (answer: unknown) => void): Promise<"sent" | "kept"> {
    await stored(entry);
    return new Promise((go, stop) => {
      let waited = away.value;
      if (waited) go("kept");
      const send = () =>
        sure(
          () => post(entry),
          () => {
            waited = true;
            go("kept");
          },
        ).then(
          (answer) => {
            drop(entry);
            taken(answer);
            go("sent");
          },
          (error: unknown) => {
            if (waited) refuse(entry, error);
            else drop(entry);
            stop(error as Error);
          },
        );
      const behind = watch(away, (now) => now && ((waited = true), go("kept")));
      queue = queue
        .then(send)
        .catch(() => undefined)
        .finally(behind);
    });
  }

  /** Wait until it is worth trying again: after a while, when the network is back, or now. */
  async function untilAnswered() {
    away.value = true;
    const ms = RETRY_MS[Math.min(tried, RETRY_MS.length - 1)] ?? LONGEST_MS;
    tried += 1;
    await new Promise<void>((go) => {
      wake = go;
      setTimeout(go, ms);
    });
  }

  function answered() {
    away.value = false;
    tried = 0;
  }

  function tryNow() {
    wake?.();
  }
  window.addEventListener("online", tryNow);

  /** Do something until it is known what became of it; `waits` is told each time it is not. Throws
   * what the server refuses. */
  async function sure<T>(ask: () => Promise<T>, waits?: () => void): Promise<T> {
    for (;;) {
      try {
        const answer = await ask();
        answered();
        return answer;
      } catch (error) {
        if (!isUnknown(error)) {
          answered();
          throw error;
        }
        waits?.();
        await untilAnswered();
      }
    }
  }

  /** A write without an entry: counted while it is under way. */
  async function counted<T>(ask: () => Promise<T>): Promise<T> {
    others.value += 1;
    try {
      return await sure(ask);
    } finally {
      others.value -= 1;
    }
  }

  /** What an earlier page left behind: sent in the order in which it was entered. */
  const late = shallowRef<Entry | null>(null);

  async function sendLeft() {
    await loaded;
    const left = [...waiting.value];
    const send = async () => {
      for (const entry of left) {
        try {
          await sure(() => post(entry));
          drop(entry);
          // Whoever has that document open reads it anew: it was read before this was saved.
          late.value = entry;
        } catch (error) {
          refuse(entry, error);
        }
      }
    };
    // Of several windows one sends what was left behind.
    queue = queue.then(async () => {
      await (navigator.locks ? navigator.locks.request(SENDER, send) : send());
    });
    await queue;
  }

  /** Keep an entry that was refused after it had waited: nobody looks at its field any more. */
  function refuse(entry: Entry, error: unknown) {
    const why = error instanceof ProblemError ? error.problem.detail : String(error);
    all.value = all.value.map((e) => (e.key === entry.key ? { ...e, refused: why } : e));
    keep({ ...entry, refused: why });
  }

  window.addEventListener("beforeunload", (event) => {
    if (count.value) event.preventDefault();
  });

  return {
    waiting,
    refused,
    count,
    away,
    late,
    full,
    loaded,
    stored,
    deliver,
    add,
    drop,
    refuse,
    sure,
    counted,
    sendLeft,
    tryNow,
  };
});
