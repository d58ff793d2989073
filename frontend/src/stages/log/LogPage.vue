<script setup lang="ts">
import { computed, ref } from "vue";

import type { Key } from "@/app/keys";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import FaultsSection from "./FaultsSection.vue";
import ReadingsSection from "./ReadingsSection.vue";
import RecordsSection from "./RecordsSection.vue";
import ServiceSection from "./ServiceSection.vue";
import SettingsSection from "./SettingsSection.vue";
import { useLog } from "./useLog";

defineProps<{ jobId: string; variantId: string }>();

const stage = useLog();
const { log } = stage;
const part = ref("readings");
const findings = ref(false);
const overdue = computed(() => log.value?.due.filter((d) => d.standing === "overdue").length ?? 0);
const parts = computed(() => [
  { id: "readings", name: "Readings" },
  { id: "records", name: "Records" },
  { id: "settings", name: "Settings", count: log.value?.open_settings.length },
  { id: "faults", name: "Faults", count: log.value?.open_faults.length },
  { id: "service", name: "Service", count: overdue.value || undefined },
]);
const keys: Key[] = [
  { key: "F", words: "Findings", run: () => (findings.value = !findings.value) },
];
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="log" :keys="keys">
    <StageBody v-model:part="part" v-model:findings="findings" title="Log" :parts="parts">
      <template #top>
        <div v-if="log" class="sum">
          <p v-if="overdue" class="text-error">
            ▲ <strong>{{ overdue }}</strong> {{ overdue === 1 ? "service" : "services" }} overdue
          </p>
          <p v-else class="text-success">✓ No service overdue</p>
          <p v-if="log.open_faults.length" class="text-error">
            ▲ <strong>{{ log.open_faults.length }}</strong>
            {{ log.open_faults.length === 1 ? "fault" : "faults" }} open
          </p>
          <p v-if="log.open_settings.length" class="text-warning">
            ◆ <strong>{{ log.open_settings.length }}</strong>
            {{ log.open_settings.length === 1 ? "setting stands" : "settings stand" }} in for a cure
          </p>
          <p v-if="log.engine_h !== null">
            Engine <strong>{{ log.engine_h }} h</strong>
          </p>
        </div>
      </template>
      <v-progress-linear v-if="!log" indeterminate aria-label="Reading the log" />
      <ReadingsSection
        v-else-if="part === 'readings'"
        :log="log"
        :stage="stage"
        :variant-id="variantId"
      />
      <RecordsSection v-else-if="part === 'records'" :job-id="jobId" :variant-id="variantId" />
      <SettingsSection v-else-if="part === 'settings'" :log="log" :stage="stage" />
      <FaultsSection v-else-if="part === 'faults'" :log="log" :stage="stage" />
      <ServiceSection v-else :log="log" :stage="stage" />
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
