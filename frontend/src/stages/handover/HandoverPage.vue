<script setup lang="ts">
/** The owner's sheet: for every situation where the switches stand, and what to do when it fails. */
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import type { Key } from "@/app/keys";
import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import SheetSection from "@/handover/SheetSection.vue";
import PaperButtons from "@/shared/PaperButtons.vue";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import type { Language, SchoolId } from "./asked";
import DrillPart from "./DrillPart.vue";
import LinksPart from "./LinksPart.vue";
import PackPart from "./PackPart.vue";
import PracticePart from "./PracticePart.vue";

const props = defineProps<{ jobId: string; variantId: string }>();

const schemes = useScheme();
const surveys = useSurvey();
const notices = useNotices();
const part = ref("sheet");
const findings = ref(false);
const school = ref<SchoolId | "">("");
const language = ref<Language>("en");
const PARTS = [
  { id: "sheet", name: "Owner's sheet" },
  { id: "drill", name: "Drill" },
  { id: "practice", name: "Practice aboard" },
  { id: "pack", name: "Pack" },
  { id: "links", name: "Owner's link" },
];
const keys: Key[] = [
  { key: "F", words: "Findings", run: () => (findings.value = !findings.value) },
];
const asked = useQuery(
  {
    queryKey: computed(() => [
      "handover",
      props.variantId,
      schemes.scheme?.revision,
      surveys.saved?.revision,
      school.value,
      language.value,
    ]),
    queryFn: () =>
      unwrap(
        api.GET("/api/variants/{variant_id}/handover", {
          params: {
            path: { variant_id: props.variantId },
            query: { school: school.value || undefined, language: language.value },
          },
        }),
      ),
    enabled: computed(() => schemes.scheme?.variant === props.variantId),
    placeholderData: (before) => (before?.variant === props.variantId ? before : undefined),
  },
  queries,
);
const handover = computed(() => asked.data.value ?? null);
watch(asked.error, (failed) => failed && notices.failed(failed));

function paper(size: Schemas["SheetIn"]["paper"]) {
  const params = { path: { variant_id: props.variantId } };
  const handled = handover.value?.school ?? "as_drawn";
  const body = { paper: size, school: handled, language: language.value };
  return unwrap(api.POST("/api/variants/{variant_id}/handover/sheet", { params, body }));
}
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="handover" :keys="keys">
    <StageBody v-model:part="part" v-model:findings="findings" title="Handover" :parts="PARTS">
      <template v-if="part === 'sheet'" #tools>
        <PaperButtons words="Sheet" :papers="['A4', 'letter', 'A5']" :ask="paper" />
      </template>
      <template #top>
        <div v-if="handover" class="asked">
          <label class="ask">
            Handled
            <select
              :value="handover.school"
              aria-label="Handled"
              @change="school = ($event.target as HTMLSelectElement).value as SchoolId"
            >
              <option v-for="one in handover.schools" :key="one.id" :value="one.id">
                {{ one.name }}
              </option>
            </select>
          </label>
          <label class="ask">
            Language
            <select v-model="language" aria-label="Language">
              <option v-for="(name, one) in handover.languages" :key="one" :value="one">
                {{ name }}
              </option>
            </select>
          </label>
          <p v-if="part === 'sheet' && handover.reading_ease !== null">
            Reading ease <strong>{{ handover.reading_ease.toFixed(0) }}</strong> ({{
              handover.plain_from
            }}
            and more is plain)
          </p>
          <p v-if="handover.why_not" class="text-warning">
            ◆ This handling does not fit: {{ handover.why_not }}.
          </p>
        </div>
      </template>
      <v-progress-linear
        v-if="!handover || asked.isFetching.value"
        indeterminate
        aria-label="Running nights at anchor for the sheet"
      />
      <section
        v-if="handover && part === 'sheet'"
        aria-label="Owner's sheet"
        class="block"
        :lang="language"
      >
        <p class="source">
          Revision {{ handover.revision }}, {{ new Date().toISOString().slice(0, 10) }}
        </p>
        <p v-for="line in handover.sheet.cautions" :key="line" class="care">▲ {{ line }}</p>
        <SheetSection
          v-for="one in handover.sheet.sections"
          :key="one.id"
          :section="one"
          :boat="{ jobId, variantId }"
        />
      </section>
      <template v-if="handover && part !== 'sheet'">
        <DrillPart
          v-if="part === 'drill'"
          :key="`${handover.revision} ${handover.school}`"
          :variant-id="variantId"
          :revision="handover.revision"
          :school="handover.school"
          :language="language"
        />
        <PracticePart
          v-else-if="part === 'practice'"
          :handover="handover"
          :variant-id="variantId"
          @kept="asked.refetch()"
        />
        <PackPart
          v-else-if="part === 'pack'"
          :variant-id="variantId"
          :school="handover.school"
          :language="language"
        />
        <LinksPart v-else :variant-id="variantId" :school="handover.school" :language="language" />
      </template>
    </StageBody>
  </StageFrame>
</template>

<style scoped>
.asked {
  padding: 0 16px 6px;
}
</style>
