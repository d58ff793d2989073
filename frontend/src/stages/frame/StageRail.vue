<script setup lang="ts">
import { STAGES } from "@/stages/stages";

defineProps<{ current: string; jobId: string; variantId: string }>();
</script>

<template>
  <nav class="rail" aria-label="Stages">
    <ol>
      <li v-for="stage in STAGES" :key="stage.name">
        <router-link
          class="stage"
          :class="{ here: stage.route === current }"
          :to="{ name: stage.route, params: { jobId, variantId } }"
          :aria-current="stage.route === current ? 'step' : undefined"
        >
          <span class="digit">{{ stage.digit }}</span> <span>{{ stage.name }}</span>
        </router-link>
      </li>
    </ol>
  </nav>
</template>

<style scoped>
.rail {
  width: 112px;
  flex: none;
  overflow-y: auto;
  background: rgb(var(--v-theme-surface-variant));
  color: rgb(var(--v-theme-on-surface-variant));
}
ol {
  list-style: none;
  padding: 6px 0;
}
.stage {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 7px 10px;
  min-height: 52px;
  color: inherit;
  text-decoration: none;
  border-left: 5px solid transparent;
}
a.stage {
  font-weight: 600;
}
a.stage:hover {
  text-decoration: underline;
}
.here {
  font-weight: 800 !important;
  border-left-color: rgb(var(--v-theme-warning));
  background: rgb(var(--v-theme-background));
  color: rgb(var(--v-theme-on-background));
}
.digit {
  width: 1ch;
}
</style>
