/** What the server works out from a variant and the survey: asked anew when either has moved. */
import { useQuery } from "@tanstack/vue-query";
import { computed, watch } from "vue";

import { queries } from "@/api/queries";
import { useNotices } from "@/app/notices";

import { useScheme } from "./schemeStore";
import { useSurvey } from "./surveyStore";

export function useReport<T>(
  name: string,
  ask: (variant: string) => Promise<T>,
  /** What came back with the last change already. */
  given: () => T | null | undefined = () => null,
  /** Whether what came back counts after a change of the variant too; else of the survey alone. */
  always = false,
) {
  const schemes = useScheme();
  const surveys = useSurvey();
  const notices = useNotices();
  const variant = computed(() => schemes.scheme?.variant ?? "");
  const key = computed(() => [
    "report",
    name,
    variant.value,
    schemes.scheme?.revision,
    surveys.saved?.revision,
  ]);
  const { data, isFetching, error } = useQuery(
    {
      queryKey: key,
      queryFn: () => ask(variant.value),
      enabled: computed(() => variant.value !== ""),
      // Until the new one is there the old one stays, but never that of another variant.
      placeholderData: (before, query) =>
        query?.queryKey[2] === variant.value ? before : undefined,
    },
    queries,
  );

  watch(
    () => [variant.value, schemes.scheme?.revision, surveys.saved?.revision],
    ([now, revision], [was, before]) => {
      const known = now === was && (always || revision === before) ? given() : null;
      if (known) queries.setQueryData(key.value, known);
    },
    { flush: "sync" },
  );
  watch(error, (failed) => failed && notices.failed(failed));

  return { report: computed(() => data.value ?? null), asking: isFetching };
}
