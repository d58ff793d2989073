/** A document as it is saved: every write in its turn, none lost, nothing silently overwritten. */
import { computed, ref, shallowRef, watch } from "vue";

import { ProblemError, type Problem, type Schemas } from "@/api/client";
import { writeHeaders, type WriteHeaders } from "@/api/sending";
import { useNotices } from "@/app/notices";

import { post, useUnsaved, type DocumentEntry, type Entry, type Sort } from "./unsaved";

/** The named changes of both sorts of document, as the engine types them. */
export type DesignChange = Schemas["ChangeIn"]["change"];
export type SurveyChange = Schemas["SurveyChangeIn"]["change"];
export type Change = DesignChange | SurveyChange;
export type FieldValue = Schemas["FieldValue"];
export type Fields = Record<string, FieldValue>;
export type Version = Schemas["RevisionOut"];
export type SavedFields = Pick<
  Schemas["SurveyOut"],
  "revision" | "can_undo" | "can_redo" | "undo_at" | "redo_at"
>;

/** Which document a write is for, the revision it was made on, and the id that makes it one. */
export interface Write {
  id: string;
  base: number;
  headers: WriteHeaders;
}

/** How one sort of document is read and written. */
export interface Ways<T> {
  sort: Sort;
  /** The document that is open now. */
  open: () => string;
  read: (id: string) => Promise<T>;
  undo: (write: Write) => Promise<T>;
  redo: (write: Write) => Promise<T>;
  restore: (write: Write, revision: number) => Promise<T>;
  history: (id: string) => Promise<Version[]>;
  /** The variant whose audit comes back with a change of the survey. */
  loadsOf?: () => string | null;
}

export function useSaved<T extends SavedFields, C extends Change>(
  ways: Ways<T>,
  settled: (now: T, before: T | null) => T = (now) => now,
) {
  const notices = useNotices();
  const unsaved = useUnsaved();
  const saved = shallowRef<T | null>(null);
  const conflict = ref<Problem | null>(null);
  const queued = ref(0);
  const isMine = (e: Entry): e is DocumentEntry => e.sort === ways.sort && e.of === ways.open();
  const busy = computed(() => queued.value > 0);
  /** While no answer comes, the entries of the open document that wait: they are shown as entered. */
  const entries = computed(() => (unsaved.away ? unsaved.waiting.filter(isMine) : []));
  let queue: Promise<unknown> = Promise.resolve();

  /** Do a write once the ones before it are answered: none is dropped, none overtakes. */
  function inTurn(write: () => Promise<boolean>): Promise<boolean> {
    queued.value += 1;
    const mine = queue.then(write).finally(() => (queued.value -= 1));
    queue = mine;
    return mine;
  }

  /** Take an answer in, unless another document was opened meanwhile. */
  async function take(id: string, ask: () => Promise<T>): Promise<boolean> {
    try {
      const answer = await ask();
      if (id === ways.open()) saved.value = settled(answer, saved.value);
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

  function write(request: (write: Write) => Promise<T>): Promise<boolean> {
    const id = ways.open();
    const headers = writeHeaders();
    return inTurn(async () => {
      if (!saved.value || id !== ways.open()) return false;
      const base = saved.value.revision;
      return take(id, () => unsaved.counted(() => request({ id, base, headers })));
    });
  }

  /** A named change: kept on this device until it is known to be saved, or refused. */
  function change(what: C): Promise<boolean> {
    if (!saved.value) return Promise.resolve(false);
    const id = ways.open();
    const base = saved.value.revision;
    const loadsOf = ways.loadsOf?.() ?? null;
    const entry = unsaved.add<DocumentEntry>({
      sort: ways.sort,
      of: id,
      base,
      change: what,
      loadsOf,
    });
    return inTurn(async () => {
      await unsaved.stored(entry);
      if (saved.value && id === ways.open()) entry.base = saved.value.revision;
      let waited = false;
      const waits = () => (waited = true);
      return take(id, async () => {
        try {
          const answer = await unsaved.sure(() => post(entry) as Promise<T>, waits);
          unsaved.drop(entry);
          return answer;
        } catch (error) {
          if (waited) unsaved.refuse(entry, error);
          else unsaved.drop(entry);
          throw error;
        }
      });
    });
  }

  watch(
    () => unsaved.late,
    async (entry) => {
      if (!entry || entry.sort !== ways.sort || entry.of !== ways.open()) return;
      const id = ways.open();
      await inTurn(() => take(id, () => ways.read(id)));
    },
  );

  const undo = () => write(ways.undo);
  const redo = () => write(ways.redo);
  const restore = (revision: number) => write((at) => ways.restore(at, revision));
  const history = () => ways.history(ways.open());

  /** After a clash: look at what is saved now, or put the version kept aside in its place. */
  async function settle(mine: boolean) {
    const kept = conflict.value?.kept_revision;
    conflict.value = null;
    saved.value = await ways.read(ways.open());
    if (mine && kept) await restore(kept);
  }

  return { saved, conflict, busy, entries, write, change, undo, redo, restore, settle, history };
}
