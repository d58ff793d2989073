<script setup lang="ts">
import { computed } from "vue";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"fuse_block">>();

const PITCH = 26;
const bar = computed(() => Math.max(3, props.part.branch_a.length) * PITCH);
const branches = computed(() =>
  props.part.branch_a.map((rating, n) => ({ x: (n + 0.5) * PITCH, rating, n })),
);
</script>

<template>
  <g>
    <path class="lead" :d="`M${bar / 2} 0 V8`" />
    <rect x="0" y="8" :width="bar" height="10" rx="3" class="bar" />
    <g v-for="branch in branches" :key="branch.n">
      <path class="lead" :d="`M${branch.x} 18 V58`" />
      <rect :x="branch.x - 5.5" y="25" width="11" height="20" rx="2.500" class="body" />
      <path class="thread" :d="`M${branch.x} 25 V45`" />
      <text :x="branch.x + 12" y="56" class="tiny" text-anchor="middle">{{ branch.rating }}</text>
    </g>
    <GlyphName :name="part.name" :x="bar + 8" :y="20" :width="82" />
    <text :x="bar + 8" y="52" class="small">fuses in A</text>
  </g>
</template>

<style scoped>
.lead {
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 2.5;
}
.bar {
  fill: rgb(var(--v-theme-wire));
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 1.5;
}
.body {
  fill: rgb(var(--v-theme-surface));
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 2;
}
.thread {
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 1.2;
}
.tiny {
  font-size: 10.5px;
  font-weight: 600;
}
</style>
