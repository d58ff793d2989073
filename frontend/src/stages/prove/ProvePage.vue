<script setup lang="ts">
import { computed, ref, watch } from "vue";

import type { Key } from "@/app/keys";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import AllTests from "./AllTests.vue";
import DiagnosisSection from "./DiagnosisSection.vue";
import RecordSection from "./RecordSection.vue";
import TestSection from "./TestSection.vue";
import { useProve } from "./useProve";

defineProps<{ jobId: string; variantId: string }>();

const stage = useProve();
const { prove } = stage;
const part = ref("test");
const findings = ref(false);
const at = ref("");
const PARTS = [
  { id: "test", name: "Test" },
  { id: "all", name: "All tests" },
  { id: "diagnosis", name: "Find the fault" },
  { id: "record", name: "Record" },
];
const keys: Key[] = [
  { key: "F", words: "Findings", run: () => (findings.value = !findings.value) },
];
const done = computed(() => (prove.value?.tests.length ?? 0) - (prove.value?.counts.open ?? 0));
watch(
  () => prove.value?.variant,
  () => {
    at.value = prove.value?.next ?? prove.value?.tests[0]?.key ?? "";
  },
  { immediate: true },
);

function open(key: string) {
  at.value = key;
  part.value = "test";
}
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="prove" :keys="keys">
    <StageBody v-model:part="part" v-model:findings="findings" title="Prove" :parts="PARTS">
      <template #top>
        <div v-if="prove" class="sum">
          <p>
            <strong>{{ done }} of {{ prove.tests.length }}</strong> tests answered
          </p>
          <p v-if="prove.not_so" class="text-error">▲ {{ prove.not_so }} not as they should be</p>
          <p v-if="prove.lost.length" class="text-warning">
            ◆ {{ prove.lost.length }} entries are about tests that the design no longer has; they
            are kept.
          </p>
        </div>
      </template>
      <v-progress-linear v-if="!prove" indeterminate aria-label="Computing the tests" />
      <TestSection v-else-if="part === 'test'" v-model:at="at" :prove="prove" :stage="stage" />
      <AllTests v-else-if="part === 'all'" :prove="prove" :stage="stage" @open="open" />
      <DiagnosisSection v-else-if="part === 'diagnosis'" :prove="prove" :stage="stage" />
      <RecordSection v-else :prove="prove" :stage="stage" :variant-id="variantId" />
    </StageBody>
  </StageFrame>
</template>

<style scoped>
.sum {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 26px;
  padding: 0 16px 6px;
}
.sum strong {
  font-size: 1.15rem;
}
</style>
