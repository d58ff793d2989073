/** What was entered and is not saved yet: kept on this device, counted, and sent by itself. */
import { defineStore } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";

import { api, isUnknown, ProblemError, unwrap } from "@/api/client";
import { away } from "@/api/connection";
import { newId, windowId, writeHeaders } from "@/api/sending";
import { useSession } from "@/app/session";

import type { Change, DesignChange, SurveyChange } from "./saved";

export type Sort = "survey" | "variant";

/** A named change on its way; `sort` and `of` say of which document. */
export interface Entry {
  key: string;
  window: string;
  person: string;
  sort: Sort;
  of: string;
  base: number;
  change: Change;
  loadsOf: string | null;
  /** Why the server refused it: it is kept to be read, and is not sent again. */
  refused?: string;
}

const KEPT = "strom.unsaved";
const LONGEST_MS = 15000;
const RETRY_MS = [1000, 2000, 4000, 8000, LONGEST_MS];

function read(): Entry[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEPT) ?? "[]");
    return Array.isArray(found) ? (found as Entry[]) : [];
  } catch {
    return [];
  }
}

function write(entries: Entry[]) {
  try {
    localStorage.setItem(KEPT, JSON.stringify(entries));
  } catch {
    // A full device: what is entered stays in this window, and leaving it warns.
  }
}

/** Send a named change; the answer is that of its document. */
export function post(entry: Entry): Promise<unknown> {
  const headers = writeHeaders(entry.key, entry.window);
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
  const all = ref<Entry[]>(read());
  /** Writes that have no entry of their own, such as an undo: they wait in this window alone. */
  const others = ref(0);
  let tried = 0;
  let wake: (() => void) | null = null;

  const mine = computed(() => all.value.filter((e) => e.person === session.session?.username));
  const waiting = computed(() => mine.value.filter((e) => !e.refused));
  const refused = computed(() => mine.value.filter((e) => e.refused));
  const count = computed(() => waiting.value.length + others.value);

  watch(all, write, { deep: true });

  function add(fields: Pick<Entry, "sort" | "of" | "base" | "change" | "loadsOf">): Entry {
    const person = session.session?.username ?? "";
    const entry = { key: newId(), window: windowId, person, ...fields };
    all.value = [...all.value, entry];
    return entry;
  }

  function drop(entry: Entry) {
    all.value = all.value.filter((e) => e.key !== entry.key);
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
    for (const entry of [...waiting.value]) {
      try {
        await sure(() => post(entry));
        drop(entry);
        // Whoever has that document open reads it anew: it was read before this was saved.
        late.value = entry;
      } catch (error) {
        refuse(entry, error);
      }
    }
  }

  /** Keep an entry that was refused after it had waited: nobody looks at its field any more. */
  function refuse(entry: Entry, error: unknown) {
    const why = error instanceof ProblemError ? error.problem.detail : String(error);
    all.value = all.value.map((e) => (e.key === entry.key ? { ...e, refused: why } : e));
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
    add,
    drop,
    refuse,
    sure,
    counted,
    sendLeft,
    tryNow,
  };
});
