/** The job that is open: its survey and one of its variants, and undo through both. */
import { defineStore } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";

import type { SavedFields } from "./saved";
import { useScheme } from "./schemeStore";
import { useSurvey } from "./surveyStore";

const CALM_MS = 250;

export const useOpenJob = defineStore("open job", () => {
  const schemes = useScheme();
  const surveys = useSurvey();
  const job = shallowRef<Schemas["JobOut"] | null>(null);
  const choices = shallowRef<Schemas["Choices"] | null>(null);
  const ids = ref({ job: "", variant: "" });

  /** Whether a boat's documents are here, whatever the server does. */
  function isHere({ jobId, variantId }: { jobId: string; variantId: string }): boolean {
    const read = job.value?.id === jobId && schemes.scheme?.variant === variantId;
    return read && surveys.saved !== null && choices.value !== null;
  }

  async function open(jobId: string, variantId: string) {
    const another = ids.value.job !== jobId || ids.value.variant !== variantId;
    ids.value = { job: jobId, variant: variantId };
    const params = { path: { job_id: jobId } };
    const fresh = !another && schemes.scheme !== null;
    const [read, picks] = await Promise.all([
      unwrap(api.GET("/api/jobs/{job_id}", { params })),
      choices.value ?? unwrap(api.GET("/api/choices")),
      surveys.open(jobId),
      fresh ? null : schemes.open(variantId),
    ]);
    job.value = read;
    choices.value = picks;
    await freshen();
  }

  /** A design is shown as surveyed: read it again once the survey has moved on. */
  async function freshen() {
    const now = surveys.saved?.revision;
    if (now && schemes.scheme && schemes.scheme.survey_revision !== now) await schemes.refresh();
  }

  let calm: ReturnType<typeof setTimeout> | undefined;
  watch(
    () => surveys.saved?.revision,
    () => {
      clearTimeout(calm);
      calm = setTimeout(() => void freshen(), CALM_MS);
    },
  );

  async function copyVariant(name: string, pattern: string | null = null): Promise<string> {
    const params = { path: { variant_id: ids.value.variant } };
    const made = await unwrap(
      api.POST("/api/variants/{variant_id}/copy", {
        params,
        body: pattern ? { name, pattern } : { name },
      }),
    );
    return made.variant;
  }

  type Kept = typeof schemes | typeof surveys;
  const standing = (kept: Kept): SavedFields | null => ("parts" in kept ? kept.scheme : kept.saved);

  /** What was done last, of either document, is undone first. */
  const undoable = computed<Kept | null>(() => {
    const [a, b] = [schemes.scheme?.undo_at ?? "", surveys.saved?.undo_at ?? ""];
    if (!a && !b) return null;
    return a > b ? schemes : surveys;
  });
  /** What was undone last is done again first: of both, the earlier one. */
  const redoable = computed<Kept | null>(() => {
    const [a, b] = [schemes.scheme?.redo_at, surveys.saved?.redo_at];
    if (!a && !b) return null;
    return b && (!a || b < a) ? surveys : schemes;
  });
  const canUndo = computed(() => (undoable.value && standing(undoable.value)?.can_undo) ?? null);
  const canRedo = computed(() => (redoable.value && standing(redoable.value)?.can_redo) ?? null);
  const busy = computed(() => schemes.busy || surveys.busy);
  const undo = () => undoable.value?.undo();
  const redo = () => redoable.value?.redo();

  return { job, choices, ids, open, isHere, copyVariant, canUndo, canRedo, busy, undo, redo };
});
