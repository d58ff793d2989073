<script setup lang="ts">
import { computed } from "vue";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"fuse" | "shunt">>();

const x = computed(() => (props.part.kind === "fuse" ? 12 : 14));
const rating = computed(() => `${props.part.rating_a} A`);
</script>

<template>
  <g>
    <path :d="`M${x} 0 V${box.height}`" class="through" />
    <rect
      v-if="part.kind === 'fuse'"
      :x="x - 7"
      y="10"
      width="14"
      :height="box.height - 20"
      rx="3"
      class="body"
    />
    <path v-if="part.kind === 'fuse'" :d="`M${x} 10 V${box.height - 10}`" class="wire" />
    <path v-else :d="`M${x - 8} 10 h16 M${x - 8} ${box.height - 10} h16`" class="through" />
    <GlyphName :name="part.name" :x="28" :y="19" :width="84" />
    <text x="28" :y="box.height - 4" class="small">{{ rating }}</text>
  </g>
</template>

<style scoped>
.through {
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 3;
}
.body {
  fill: rgb(var(--v-theme-surface));
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 2;
}
.wire {
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 1.5;
}
</style>
