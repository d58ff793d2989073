<script setup lang="ts">
/** Stage 5: every cable and device, what it carries and loses, and what chooses it. */
import { computed, ref } from "vue";

import { api, ProblemError, unwrap } from "@/api/client";
import type { Key } from "@/app/keys";
import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import { keepAs } from "@/drawing/exportSvg";
import ChoiceButtons from "@/shared/fields/ChoiceButtons.vue";
import { copper } from "@/shared/units";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import CableTableDialog from "./CableTableDialog.vue";
import ChooseDialog from "./ChooseDialog.vue";
import DetoursSection from "./DetoursSection.vue";
import LaddersSection from "./LaddersSection.vue";
import PathsSection from "./PathsSection.vue";
import RunSheet from "./RunSheet.vue";
import RunsTable from "./RunsTable.vue";
import { useRuns } from "./runs";

defineProps<{ jobId: string; variantId: string }>();

const { report } = useRuns();
const schemes = useScheme();
const surveys = useSurvey();
const notices = useNotices();
const part = ref("cables");
const findings = ref(false);
const picked = ref<string | null>(null);
const choosing = ref<string[] | "all" | null>(null);
const table = ref<string | Blob | null>(null);
const file = ref<HTMLInputElement | null>(null);

const rows = computed(() => report.value?.report.rows ?? []);
const row = computed(() => rows.value.find((r) => r.id === picked.value) ?? null);
const wrong = computed(() => rows.value.filter((r) => r.verdict === "bad").length);
const judged = computed(() => {
  if (!rows.value.length) return "? nothing to check";
  return wrong.value ? `■ ${wrong.value} not to the standard` : "✓ all to the standard";
});
const bought = computed(() => {
  const found = report.value;
  if (!found) return "";
  const price = found.report.price;
  const paid = price == null ? "" : `, ${price.toFixed(0)} ${found.currency} of cable`;
  return `· ${copper(found.report.copper_kg)} of copper${paid}`;
});
const PARTS = [
  { id: "cables", name: "Cables" },
  { id: "paths", name: "Whole paths" },
  { id: "ladders", name: "Ladders" },
  { id: "detours", name: "Detours" },
];
const STANDARDS = [
  { id: "abyc", words: "ABYC" },
  { id: "iso", words: "ISO" },
];
const SIZES = [
  { id: "awg", words: "AWG" },
  { id: "mm2", words: "mm²" },
];
const keys: Key[] = [
  { key: "F", words: "Findings", run: () => (findings.value = !findings.value) },
  {
    key: "C",
    words: "Choose sizes for every run",
    open: () => choosing.value !== null,
    run: () => (choosing.value = choosing.value === null ? "all" : null),
  },
];

const practise = (field: string, value: string) => surveys.set("practice", { [field]: value });

async function keepCsv() {
  const variant = schemes.scheme?.variant ?? "";
  try {
    const params = { path: { variant_id: variant } };
    const text = await unwrap(
      api.GET("/api/variants/{variant_id}/runs.csv", { params, parseAs: "text" }),
    );
    keepAs("runs.csv", text as string, "text/csv");
  } catch (error) {
    if (error instanceof ProblemError) notices.failed(error);
    else throw error;
  }
}

function bring(event: Event) {
  const input = event.target as HTMLInputElement;
  table.value = input.files?.[0] ?? null;
  input.value = "";
}
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="runs" :keys="keys">
    <StageBody
      v-model:part="part"
      v-model:findings="findings"
      title="Runs"
      :parts="PARTS"
      :side="row ? 'Run' : null"
      @close-side="picked = null"
    >
      <template #tools>
        <v-btn
          size="small"
          color="secondary"
          variant="flat"
          :disabled="!report || schemes.busy"
          @click="choosing = 'all'"
        >
          Choose for every run
        </v-btn>
      </template>
      <template #top>
        <div v-if="report" class="top">
          <p class="sum">
            <strong>{{ rows.length }}</strong> runs,
            <strong :class="wrong ? 'text-error' : 'text-success'">{{ judged }}</strong>
            {{ bought }}
          </p>
          <div class="practice">
            <ChoiceButtons
              label="Whose figures"
              :value="surveys.survey?.practice?.standard ?? 'abyc'"
              :choices="STANDARDS"
              @choose="(id) => practise('standard', id)"
            />
            <ChoiceButtons
              label="Sizes chosen in"
              :value="surveys.survey?.practice?.sizes ?? 'awg'"
              :choices="SIZES"
              @choose="(id) => practise('sizes', id)"
            />
          </div>
          <div class="files">
            <v-btn size="small" variant="text" :to="{ name: 'stock' }">Stock</v-btn>
            <v-btn size="small" variant="text" @click="keepCsv">CSV out</v-btn>
            <v-btn size="small" variant="text" @click="file?.click()">CSV in</v-btn>
            <input
              ref="file"
              type="file"
              accept=".csv,text/csv,text/plain"
              hidden
              @change="bring"
            />
          </div>
        </div>
      </template>
      <template #side>
        <RunSheet
          v-if="row"
          :key="row.id"
          :row="row"
          :gauges="report?.gauges ?? []"
          @choose="(ids) => (choosing = ids)"
        />
      </template>
      <v-progress-linear v-if="!report" indeterminate aria-label="Working out the runs" />
      <template v-else>
        <RunsTable
          v-if="part === 'cables'"
          :rows="rows"
          :gauges="report.gauges"
          :picked="picked"
          @pick="(id) => (picked = picked === id ? null : id)"
          @paste="(text) => (table = text)"
        />
        <PathsSection v-else-if="part === 'paths'" :paths="report.report.paths" />
        <LaddersSection
          v-else-if="part === 'ladders'"
          :ladders="report.report.ladders"
          :openings="report.report.openings"
        />
        <DetoursSection v-else :detours="report.report.detours" :currency="report.currency" />
        <details class="sources">
          <summary>Cautions, and where the figures are published</summary>
          <p v-for="line in report.report.cautions" :key="line">◆ {{ line }}</p>
          <p v-for="source in report.report.sources" :key="source.title">
            <strong>{{ source.title }}:</strong> {{ source.source }}; {{ source.edition }};
            {{ source.confidence }} confidence.
          </p>
        </details>
      </template>
    </StageBody>
    <ChooseDialog v-if="choosing" :cables="choosing" @close="choosing = null" />
    <CableTableDialog :table="table" @close="table = null" />
  </StageFrame>
</template>

<style scoped>
.top {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 18px;
  padding: 0 16px 6px;
}
.sum {
  font-size: 1.12rem;
  flex: 1 1 320px;
}
.practice {
  display: flex;
  gap: 14px;
}
.files {
  display: flex;
}
.sources {
  margin-top: 14px;
  font-size: 0.88rem;
  max-width: 900px;
}
.sources summary {
  min-height: 40px;
  display: flex;
  align-items: center;
  font-weight: 700;
  cursor: pointer;
}
.sources p {
  margin: 3px 0;
}
@media (max-width: 959px) {
  .top {
    padding: 0 12px 6px;
  }
}
</style>
