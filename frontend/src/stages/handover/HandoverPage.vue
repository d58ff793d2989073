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
import PrintButton from "@/shared/PrintButton.vue";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import SheetSection from "./SheetSection.vue";

const props = defineProps<{ jobId: string; variantId: string }>();

const schemes = useScheme();
const surveys = useSurvey();
const notices = useNotices();
const part = ref("sheet");
const findings = ref(false);
const school = ref<Schemas["SheetIn"]["school"] | "">("");
const language = ref<Schemas["SheetIn"]["language"]>("en");
const PARTS = [{ id: "sheet", name: "Owner's sheet" }];
const LANGUAGES: Record<string, string> = { en: "English", de: "Deutsch" };
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
      <template #tools>
        <PrintButton :ask="() => paper('A4')">Sheet, PDF A4</PrintButton>
        <PrintButton :ask="() => paper('letter')">Letter</PrintButton>
        <PrintButton :ask="() => paper('A5')">A5</PrintButton>
      </template>
      <template #top>
        <div v-if="handover" class="asked">
          <label>
            Handled
            <select
              :value="handover.school"
              aria-label="Handled"
              @change="
                school = ($event.target as HTMLSelectElement).value as Schemas['SheetIn']['school']
              "
            >
              <option v-for="one in handover.schools" :key="one.id" :value="one.id">
                {{ one.name }}
              </option>
            </select>
          </label>
          <label>
            Language
            <select v-model="language" aria-label="Language">
              <option v-for="one in handover.languages" :key="one" :value="one">
                {{ LANGUAGES[one] ?? one }}
              </option>
            </select>
          </label>
          <p v-if="handover.reading_ease !== null">
            Reading ease <strong>{{ handover.reading_ease.toFixed(0) }}</strong> (60 and more is
            plain)
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
      <section v-if="handover" aria-label="Owner's sheet" class="block" :lang="language">
        <p v-for="line in handover.sheet.cautions" :key="line" class="care">▲ {{ line }}</p>
        <SheetSection
          v-for="one in handover.sheet.sections"
          :key="one.id"
          :section="one"
          :job-id="jobId"
          :variant-id="variantId"
        />
      </section>
    </StageBody>
  </StageFrame>
</template>

<style scoped>
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
  align-items: end;
  padding: 0 16px 6px;
}
label {
  font-weight: 600;
}
select {
  display: block;
  min-height: 44px;
  padding: 4px 10px;
  color: inherit;
  border: 1.5px solid rgb(var(--v-theme-ink), 0.5);
  border-radius: 8px;
  background: rgb(var(--v-theme-surface));
}
</style>
