<script setup lang="ts">
/** A page of its own beside the jobs: a bar with the way back, and what it is. */
import { mdiArrowLeft } from "@mdi/js";

import LightSwitch from "@/app/LightSwitch.vue";

defineProps<{ title: string }>();
</script>

<template>
  <v-app-bar color="bar" density="compact" flat>
    <v-btn :icon="mdiArrowLeft" aria-label="All jobs" :to="{ name: 'jobs' }" />
    <strong class="ml-2">{{ title }}</strong>
    <v-spacer />
    <LightSwitch />
  </v-app-bar>
  <v-main>
    <div class="page">
      <slot />
    </div>
  </v-main>
</template>

<style scoped>
.page {
  max-width: 920px;
  margin: 0 auto;
  padding: 16px 16px 60px;
}
.page :deep(h2) {
  font-size: 1.25rem;
  margin: 24px 0 8px;
}
.page :deep(.rows) {
  list-style: none;
  padding: 0;
}
.page :deep(.rows li) {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
  justify-content: space-between;
  padding: 8px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
</style>
