/** A stage that takes entries: what stands after all of them, and new ones with ids made here. */
import { computed, ref } from "vue";

import { ProblemError } from "@/api/client";
import { newId } from "@/api/sending";
import { queries } from "@/api/queries";
import { useNotices } from "@/app/notices";

import {
  useUnsaved,
  type Entry,
  type PhotoEntry,
  type Stage,
  type StageEntry,
  type StageValue,
} from "./unsaved";
import { useReport } from "./useReport";

interface Report {
  variant: string;
  revision: number;
}
type NewValue = Pick<StageValue, "kind" | "target"> & object;
interface Params {
  path: { variant_id: string };
}

export function useEntries<T extends Report>(
  stage: Stage,
  ask: (params: Params) => Promise<T>,
  /** A report with entries that wait, shown as entered: nothing is computed of them. */
  withWaiting: (report: T, waiting: StageValue[]) => T = (report) => report,
) {
  const notices = useNotices();
  const unsaved = useUnsaved();
  const { report: asked } = useReport<T>(stage, (variant) =>
    ask({ path: { variant_id: variant } }),
  );
  const sending = ref(0);

  const isHere = (e: Entry): e is StageEntry =>
    e.sort === "entries" && e.stage === stage && e.of === asked.value?.variant;
  const waiting = computed(() =>
    unsaved.away ? unsaved.waiting.filter(isHere).flatMap((e) => e.entries) : [],
  );
  const report = computed(() =>
    asked.value && waiting.value.length ? withWaiting(asked.value, waiting.value) : asked.value,
  );

  const take = (now: T) => (answer: unknown) => {
    queries.setQueriesData<T>({ queryKey: ["report", stage, now.variant] }, answer as T);
  };

  async function counted<R>(what: () => Promise<R>): Promise<R | null> {
    sending.value += 1;
    try {
      return await what();
    } catch (error) {
      // Refused after it had waited, it is told where all that waits is.
      if (!(error instanceof ProblemError) || error.problem.status !== 0) notices.failed(error);
      return null;
    } finally {
      sending.value -= 1;
    }
  }

  /** Send something and take the answer for what stands now; it, or null when it is not kept. */
  async function kept(send: (now: T, params: Params) => Promise<T>): Promise<T | null> {
    const now = asked.value;
    if (!now) return null;
    return counted(async () => {
      const answer = await send(now, { path: { variant_id: now.variant } });
      take(now)(answer);
      return answer;
    });
  }

  /** Entries with ids and the time of this device, on it from now on. */
  function made(now: T, values: NewValue[]): StageEntry {
    const plain = { at: new Date().toISOString(), revision: now.revision };
    const entries = values.map((one) => ({ id: newId(), ...plain, ...one }));
    return unsaved.add<StageEntry>({ sort: "entries", stage, of: now.variant, entries });
  }

  /** Enter something: kept on this device first, then sent. What stands now; null when refused. */
  async function enter(...values: NewValue[]): Promise<T | null> {
    const now = asked.value;
    if (!now) return null;
    const entry = made(now, values);
    return counted(async () => {
      await unsaved.deliver(entry, take(now));
      return report.value;
    });
  }

  /** Keep a photograph of the job under an id of this device, and the entry of where it was
   * taken: both are on this device before either is sent. Whether it is kept. */
  async function photograph(
    jobId: string,
    target: string,
    caption: string,
    blob: Blob,
  ): Promise<boolean> {
    const now = asked.value;
    if (!now) return false;
    const photo = newId();
    const picture = unsaved.add<PhotoEntry>({ sort: "photo", of: jobId, photo, caption, blob });
    const told = made(now, [{ kind: "photo", target, photo } as NewValue]);
    const kept = await counted(async () => {
      try {
        await unsaved.deliver(picture, () => undefined);
      } catch (error) {
        unsaved.drop(told); // of a picture that the server refuses
        throw error;
      }
      return unsaved.deliver(told, take(now));
    });
    return kept !== null;
  }

  return { report, waiting, kept, enter, photograph, sending: computed(() => sending.value > 0) };
}
