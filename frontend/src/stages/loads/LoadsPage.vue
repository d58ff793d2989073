<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from "vue";

import { api, unwrap } from "@/api/client";
import type { Key } from "@/app/keys";
import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import { useReport } from "@/documents/useReport";
import { CHOICES } from "@/parts/kinds";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import { SEASONS } from "@/shared/seasons";
import { fineAmpHours } from "@/shared/units";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import CountedSection from "./CountedSection.vue";
import DaySection from "./DaySection.vue";
import InverterSection from "./InverterSection.vue";
import LibraryDialog from "./LibraryDialog.vue";
import LoadSheet from "./LoadSheet.vue";
import LoadTable from "./LoadTable.vue";
import MeasureSection from "./MeasureSection.vue";
import ProfilesDialog from "./ProfilesDialog.vue";
import ProfileTiles from "./ProfileTiles.vue";
import RowsDialog from "./RowsDialog.vue";

defineProps<{ jobId: string; variantId: string }>();

const surveys = useSurvey();
const schemes = useScheme();
const open = useOpenJob();
const { field } = useEdits();
const { report } = useReport(
  "loads",
  (variant) =>
    unwrap(
      api.GET("/api/variants/{variant_id}/loads", { params: { path: { variant_id: variant } } }),
    ).then((answer) => answer.report),
  () => surveys.saved?.loads,
);
watch(
  () => schemes.scheme?.variant,
  (variant) => (surveys.loadsOf = variant ?? null),
  { immediate: true },
);
onBeforeUnmount(() => (surveys.loadsOf = null));
const part = ref("audit");
const findings = ref(false);
const chosen = ref<string | null>(null);
const picked = ref<string | null>(null);
const library = ref(false);
const profiles = ref(false);
const incoming = ref<{ which: "items" | "counted"; table: string | Blob } | null>(null);
const picker = ref<HTMLInputElement | null>(null);
const PARTS = [
  { id: "audit", name: "Audit" },
  { id: "day", name: "A day" },
  { id: "measure", name: "Measure aboard" },
  { id: "counted", name: "Counted" },
  { id: "inverter", name: "Inverter" },
];
const shown = computed(() => chosen.value ?? report.value?.audit.worst ?? null);
const day = computed(() => {
  const days = report.value?.audit.profiles ?? [];
  return days.find((d) => d.profile === shown.value) ?? days[0] ?? null;
});
const side = computed(() => {
  if (part.value !== "audit" || findings.value) return null;
  return surveys.survey?.items.find((item) => item.id === picked.value)?.name ?? null;
});
const houseFeed = computed(
  () => schemes.parts.find((p) => p.kind === "loads" && /house|panel/.test(p.id))?.id ?? null,
);
const onEngine = computed(() => {
  const rows = report.value?.on_engine_bank ?? [];
  return rows.length ? `${rows.length} loads hang on the engine bank at rest` : null;
});

const keys: Key[] = [
  { key: "F", words: "Findings", run: () => (findings.value = !findings.value) },
  { key: "Escape", words: "Close the sheet", run: () => (picked.value = null) },
];

function bringIn(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (file) incoming.value = { which: "items", table: file };
  input.value = "";
}
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="loads" :keys="keys">
    <StageBody
      v-model:part="part"
      v-model:findings="findings"
      title="Loads"
      :parts="PARTS"
      :side="side"
      @close-side="picked = null"
    >
      <template #top>
        <ProfileTiles
          v-if="report"
          :report="report"
          :shown="day?.profile ?? null"
          @show="chosen = $event"
        />
      </template>
      <template #side>
        <LoadSheet v-if="picked" :id="picked" :key="picked" @gone="picked = null" />
      </template>
      <v-progress-linear v-if="!report || !surveys.survey" indeterminate aria-label="Loading" />
      <template v-else-if="part === 'audit'">
        <div class="tools">
          <v-btn color="secondary" variant="flat" @click="library = true">Add typical loads</v-btn>
          <v-btn @click="profiles = true">Profiles</v-btn>
          <v-btn @click="picker?.click()">Bring in CSV</v-btn>
          <v-btn variant="text" :href="`/api/jobs/${open.ids.job}/rows/items`">Export CSV</v-btn>
          <input
            ref="picker"
            type="file"
            accept=".csv,.txt,.tsv,text/csv"
            hidden
            aria-label="Loads as CSV"
            @change="bringIn"
          />
          <PickField
            label="Season"
            :value="surveys.survey.use.season"
            :picks="SEASONS"
            :save="field('use', 'season')"
          />
          <PickField
            label="Ah stated at"
            :value="surveys.survey.sizing.volts"
            :picks="CHOICES.sizing_volts"
            :save="field('sizing', 'volts')"
          />
          <NumberField
            v-if="surveys.survey.sizing.volts === 'own'"
            label="Own volts, of a 12 V system"
            unit="V"
            :value="surveys.survey.sizing.own_v"
            :save="field('sizing', 'own_v')"
          />
        </div>
        <p v-if="onEngine" class="text-warning">
          <strong>◆ {{ onEngine }}</strong> (see A day)
        </p>
        <LoadTable
          :day="day"
          :picked="picked"
          :feed="houseFeed"
          @pick="picked = $event"
          @paste="incoming = { which: 'items', table: $event }"
        />
        <p v-if="day" class="source">
          {{ day.name }}: standing draws {{ fineAmpHours(day.standing_ah) }} a day. Amp-hours
          {{ report.stated.words }}.
        </p>
      </template>
      <DaySection v-else-if="part === 'day' && day" :report="report" :day="day" />
      <MeasureSection v-else-if="part === 'measure'" />
      <CountedSection
        v-else-if="part === 'counted'"
        :comparisons="report.comparisons"
        @bring-in="incoming = { which: 'counted', table: $event }"
      />
      <InverterSection v-else :days="report.audit.profiles" />
    </StageBody>
  </StageFrame>
  <LibraryDialog v-model="library" :feed="houseFeed" />
  <ProfilesDialog v-model="profiles" />
  <RowsDialog
    :which="incoming?.which ?? 'items'"
    :table="incoming?.table ?? null"
    @close="incoming = null"
  />
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: end;
  margin-bottom: 8px;
}
.tools :deep(.field) {
  width: 128px;
}
.tools :deep(.field:first-of-type) {
  margin-left: auto;
}
</style>
