<script setup lang="ts">
import { ref } from "vue";

import { api, unwrap } from "@/api/client";
import type { Key } from "@/app/keys";
import { useReport } from "@/documents/useReport";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import CandidatesSection from "./CandidatesSection.vue";
import ChecksSection from "./ChecksSection.vue";
import NeedSection from "./NeedSection.vue";
import PlanHead from "./PlanHead.vue";
import StartSection from "./StartSection.vue";
import YieldSection from "./YieldSection.vue";

defineProps<{ jobId: string; variantId: string }>();

const { report } = useReport("banks", (variant) =>
  unwrap(
    api.GET("/api/variants/{variant_id}/banks", { params: { path: { variant_id: variant } } }),
  ).then((answer) => answer.plan),
);
const part = ref("candidates");
const findings = ref(false);
const PARTS = [
  { id: "yield", name: "Yield" },
  { id: "need", name: "Need" },
  { id: "candidates", name: "Candidates" },
  { id: "start", name: "Start bank" },
  { id: "checks", name: "Limits" },
];
const keys: Key[] = [
  { key: "F", words: "Findings", run: () => (findings.value = !findings.value) },
];
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="banks" :keys="keys">
    <StageBody v-model:part="part" v-model:findings="findings" title="Banks" :parts="PARTS">
      <template #top><PlanHead v-if="report" :plan="report" /></template>
      <v-progress-linear v-if="!report" indeterminate aria-label="Working out the banks" />
      <YieldSection v-else-if="part === 'yield'" :yields="report.yields" />
      <NeedSection v-else-if="part === 'need'" :plan="report" />
      <CandidatesSection v-else-if="part === 'candidates'" :plan="report" />
      <StartSection v-else-if="part === 'start'" :starts="report.starts" />
      <ChecksSection v-else :checks="report.checks" />
    </StageBody>
  </StageFrame>
</template>
