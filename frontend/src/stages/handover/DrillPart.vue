<script setup lang="ts">
/** The drill of a variant: its scenes are computed once by a worker, then played. */
import { useQuery } from "@tanstack/vue-query";
import { computed, onBeforeUnmount, ref, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useNotices } from "@/app/notices";
import { handoverEntry } from "@/handover/handoverEntry";
import DrillSection, { type Move } from "@/handover/DrillSection.vue";
import { finished } from "@/shared/prints";

import type { Language, SchoolId } from "./asked";
import { useHandoverEntries } from "./useHandoverEntries";

const props = defineProps<{
  variantId: string;
  revision: number;
  school: SchoolId;
  language: Language;
}>();
const notices = useNotices();
const enter = useHandoverEntries();
const gone = ref(false);
onBeforeUnmount(() => (gone.value = true));

const params = computed(() => ({ path: { variant_id: props.variantId } }));
const asked = useQuery(
  {
    queryKey: computed(() => [
      "drill",
      props.variantId,
      props.revision,
      props.school,
      props.language,
    ]),
    queryFn: () =>
      unwrap(
        api.GET("/api/variants/{variant_id}/drill", {
          params: {
            ...params.value,
            query: { school: props.school, language: props.language },
          },
        }),
      ),
  },
  queries,
);
const drill = computed(() => asked.data.value ?? null);
watch(asked.error, (failed) => failed && notices.failed(failed));

/** Scenes are computed anew where the boat has changed. */
watch(
  drill,
  async (now) => {
    if (!now || now.ready) return;
    try {
      const body = { school: props.school };
      const print = await unwrap(
        api.POST("/api/variants/{variant_id}/drill", { params: params.value, body }),
      );
      const done = await finished(print, () => gone.value);
      if (done.status === "done") await asked.refetch();
      else if (!gone.value) notices.said(`No scenes: ${done.problem}`);
    } catch (error) {
      notices.failed(error);
    }
  },
  { immediate: true },
);

function play(scene: string, moves: Move[]) {
  const body = { scene, moves, school: props.school, language: props.language };
  return unwrap(api.POST("/api/variants/{variant_id}/drill/play", { params: params.value, body }));
}

async function over(scene: string, outcome: Schemas["DrillResultIn"]["outcome"], moves: number) {
  try {
    const drill = { outcome, moves };
    const entry = handoverEntry(props.revision, { kind: "drill", target: scene, drill });
    await enter(props.variantId, entry, () => void asked.refetch());
  } catch (error) {
    notices.failed(error);
  }
}
</script>

<template>
  <p v-if="!drill?.ready" role="status">
    <v-progress-linear indeterminate aria-label="Computing scenes" />
    Computing scenes of this boat: the slip test and the fault sweep run for it, up to a minute.
  </p>
  <DrillSection v-else :scenes="drill.scenes" :play="play" @over="over" />
</template>
