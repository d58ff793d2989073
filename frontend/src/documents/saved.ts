/** A document as it is saved: every write in its turn, nothing silently overwritten. */
import { computed, ref, shallowRef } from "vue";

import { ProblemError, type Problem, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";

export type Change = Record<string, unknown>;
export type Version = Schemas["RevisionOut"];
export type SavedFields = Pick<
  Schemas["SurveyOut"],
  "revision" | "can_undo" | "can_redo" | "undo_at" | "redo_at"
>;

/** How one sort of document is read and written; `base` is the revision a write was made on. */
export interface Ways<T> {
  read: () => Promise<T>;
  change: (base: number, what: Change) => Promise<T>;
  undo: (base: number) => Promise<T>;
  redo: (base: number) => Promise<T>;
  restore: (base: number, revision: number) => Promise<T>;
  history: () => Promise<Version[]>;
}

export function useSaved<T extends SavedFields>(
  ways: Ways<T>,
  settled: (now: T, before: T | null) => T = (now) => now,
) {
  const notices = useNotices();
  const saved = shallowRef<T | null>(null);
  const conflict = ref<Problem | null>(null);
  const waiting = ref(0);
  const busy = computed(() => waiting.value > 0);
  let queue: Promise<unknown> = Promise.resolve();

  /** Send a write once the ones before it are answered: none is dropped, none overtakes. */
  function write(request: (base: number) => Promise<T>): Promise<boolean> {
    waiting.value += 1;
    const mine = queue.then(() => writeNow(request)).finally(() => (waiting.value -= 1));
    queue = mine;
    return mine;
  }

  async function writeNow(request: (base: number) => Promise<T>): Promise<boolean> {
    if (!saved.value) return false;
    try {
      saved.value = settled(await request(saved.value.revision), saved.value);
      return true;
    } catch (error) {
      if (error instanceof ProblemError && error.problem.status === 409) {
        conflict.value = error.problem;
      } else {
        notices.failed(error);
      }
      return false;
    }
  }

  const change = (what: Change) => write((base) => ways.change(base, what));
  const undo = () => write((base) => ways.undo(base));
  const redo = () => write((base) => ways.redo(base));
  const restore = (revision: number) => write((base) => ways.restore(base, revision));

  /** After a clash: look at what is saved now, or put the version kept aside in its place. */
  async function settle(mine: boolean) {
    const kept = conflict.value?.kept_revision;
    conflict.value = null;
    saved.value = await ways.read();
    if (mine && kept) await restore(kept);
  }

  return { saved, conflict, busy, write, change, undo, redo, restore, settle, ways };
}
