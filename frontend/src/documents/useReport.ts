/** What the server works out from a variant and the survey: asked anew when either has moved. */
import { ref, shallowRef, watch } from "vue";

import { useNotices } from "@/app/notices";

import { useScheme } from "./schemeStore";
import { useSurvey } from "./surveyStore";

export function useReport<T>(
  ask: (variant: string) => Promise<T>,
  /** What came back with the last change already. */
  given: () => T | null | undefined = () => null,
  /** Whether what came back counts after a change of the variant too; else of the survey alone. */
  always = false,
) {
  const schemes = useScheme();
  const surveys = useSurvey();
  const notices = useNotices();
  const report = shallowRef<T | null>(null);
  const asking = ref(false);
  let again = false;

  /** The newest only: what moves meanwhile is asked for when the answer is there. */
  async function run() {
    if (asking.value) {
      again = true;
      return;
    }
    asking.value = true;
    try {
      do {
        again = false;
        const variant = schemes.scheme?.variant;
        if (!variant) break;
        const answer = await ask(variant);
        if (variant === schemes.scheme?.variant) report.value = answer;
      } while (again);
    } catch (error) {
      notices.failed(error);
    } finally {
      asking.value = false;
    }
  }

  watch(
    () => [schemes.scheme?.variant, schemes.scheme?.revision, surveys.saved?.revision],
    ([variant, revision], before) => {
      if (variant !== before?.[0]) report.value = null;
      const same = variant === before?.[0];
      const known = same && (always || revision === before?.[1]) ? given() : null;
      if (known) report.value = known;
      else void run();
    },
    { immediate: true },
  );

  return { report, asking };
}
