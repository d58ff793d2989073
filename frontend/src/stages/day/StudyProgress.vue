<script setup lang="ts">
/** How far a study is, and a way to stop it. */
import { computed } from "vue";

import { unsettled, useDay, type Study } from "./dayStore";

const props = defineProps<{ study: Study; what: string }>();
const day = useDay();
const words = computed(() => {
  const { done, of, status } = props.study;
  if (status === "cancelled") return `${props.what}: cancelled after ${done} of ${of}`;
  if (status === "failed") return `${props.what}: failed`;
  if (status === "waiting") return `${props.what}: waiting for a worker`;
  return of > 1 ? `${props.what}: ${done} of ${of}` : `${props.what} …`;
});
const share = computed(() => Math.round(props.study.progress * 100));
</script>

<template>
  <div v-if="study.status !== 'done'" class="progress" role="status">
    <span>{{ words }}</span>
    <template v-if="unsettled(study)">
      <progress max="100" :value="share" :aria-label="words">{{ share }} %</progress>
      <v-btn size="small" variant="outlined" @click="day.cancel(study.id)">Cancel</v-btn>
    </template>
  </div>
</template>

<style scoped>
.progress {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
  min-height: 44px;
  font-weight: 600;
}
progress {
  flex: 1 1 160px;
  height: 12px;
  accent-color: rgb(var(--v-theme-secondary));
}
</style>
