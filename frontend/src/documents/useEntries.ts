/** A stage that takes entries: what stands after all of them, and new ones with ids made here. */
import { computed, ref } from "vue";

import { queries } from "@/api/queries";
import { useNotices } from "@/app/notices";

import { useReport } from "./useReport";

interface Stage {
  variant: string;
  revision: number;
}
interface Params {
  path: { variant_id: string };
}

export function useEntries<T extends Stage>(name: string, ask: (params: Params) => Promise<T>) {
  const notices = useNotices();
  const { report } = useReport<T>(name, (variant) => ask({ path: { variant_id: variant } }));
  const sending = ref(0);

  /** Send something and take the answer for what stands now; it, or null when it is not kept. */
  async function kept(send: (now: T, params: Params) => Promise<T>): Promise<T | null> {
    const now = report.value;
    if (!now) return null;
    sending.value += 1;
    try {
      const answer = await send(now, { path: { variant_id: now.variant } });
      queries.setQueriesData<T>({ queryKey: ["report", name, now.variant] }, answer);
      return answer;
    } catch (error) {
      notices.failed(error);
      return null;
    } finally {
      sending.value -= 1;
    }
  }

  /** Entries with ids of their own, made now on the revision that is seen. */
  function stamped<E extends object>(now: T, made: E[]) {
    const plain = { at: new Date().toISOString(), revision: now.revision };
    return made.map((one) => ({ id: crypto.randomUUID(), ...plain, ...one }));
  }

  return { report, kept, stamped, sending: computed(() => sending.value > 0) };
}
