/** Whether the server is there, looked at again while it is not; and whose answers are kept. */
import { onScopeDispose, watch } from "vue";

import { onReads } from "@/api/client";
import { away } from "@/api/connection";
import { queries } from "@/api/queries";
import { useSession } from "@/app/session";

import * as answers from "./answers";

const LOOK_EVERY_MS = 5000;

/** From now on reads are answered from this device where the server does not answer. */
export function useAtHand() {
  const session = useSession();
  onReads(answers);
  watch(
    () => session.session?.username ?? "",
    (name) => void answers.answersOf(name),
    { immediate: true },
  );

  async function look() {
    if (!away.value) return;
    try {
      const response = await fetch("/api/session", { signal: AbortSignal.timeout(4000) });
      if (response.ok) away.value = false;
    } catch {
      // Still away.
    }
  }
  const timer = setInterval(() => void look(), LOOK_EVERY_MS);
  globalThis.addEventListener("online", look);
  onScopeDispose(() => {
    clearInterval(timer);
    globalThis.removeEventListener("online", look);
  });

  // Once it answers again, what was shown from the device is asked anew.
  watch(away, (now) => {
    if (now || answers.asOf.value === null) return;
    answers.asOf.value = null;
    void queries.invalidateQueries();
  });
}
