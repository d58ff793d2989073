/** Something asked of the server: busy meanwhile, and what it refuses is told. */
import { ref } from "vue";

import { useNotices } from "./notices";

export function useDoing() {
  const notices = useNotices();
  const busy = ref(false);

  async function doing(what: () => Promise<void>) {
    busy.value = true;
    try {
      await what();
    } catch (error) {
      notices.failed(error);
    } finally {
      busy.value = false;
    }
  }

  return { busy, doing };
}
