<script setup lang="ts">
import { computed } from "vue";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"bus_bar">>();

const bar = computed(() => props.box.width - 108);
</script>

<template>
  <g>
    <rect x="0" y="10" :width="bar" height="14" rx="4" class="bar" :class="part.polarity" />
    <GlyphName :name="part.name" :x="bar + 8" :y="22" :width="100" />
  </g>
</template>

<style scoped>
.bar {
  fill: rgb(var(--v-theme-wire));
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 1.5;
}
.bar.neg {
  fill: rgb(var(--v-theme-negative));
}
</style>
