<script setup lang="ts">
import { STAGES } from "@/stages/stages";

defineProps<{ current: string }>();
</script>

<template>
  <nav class="rail" aria-label="Stages">
    <ol>
      <li v-for="stage in STAGES" :key="stage.name">
        <span
          class="stage"
          :class="{ here: stage.route === current, later: !stage.route }"
          :aria-current="stage.route === current ? 'step' : undefined"
        >
          <span class="digit">{{ stage.digit }}</span>
          <span>
            {{ stage.name }}
            <small v-if="!stage.route">later</small>
          </span>
        </span>
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
  padding: 7px 10px;
  min-height: 46px;
  border-left: 5px solid transparent;
}
.here {
  font-weight: 700;
  border-left-color: rgb(var(--v-theme-warning));
  background: rgb(var(--v-theme-background));
  color: rgb(var(--v-theme-on-background));
}
.digit {
  width: 1ch;
}
small {
  display: block;
  font-size: 0.72rem;
}
</style>
