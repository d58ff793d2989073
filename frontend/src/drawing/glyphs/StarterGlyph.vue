<script setup lang="ts">
import { computed } from "vue";

import { amps, volts } from "@/shared/units";

import type { GlyphProps } from "../types";

const props = defineProps<GlyphProps<"starter">>();

const now = computed(() => props.point?.starters[props.part.id]);
const line = computed(() => {
  if (now.value?.volts_v == null) return "no feed";
  return now.value.current_a > 1 ? amps(now.value.current_a) : "at rest";
});
</script>

<template>
  <g>
    <rect
      class="room"
      x="0.75"
      y="0.75"
      :width="box.width - 1.5"
      :height="box.height - 1.5"
      rx="9"
    />
    <path class="mark" d="M14 36 h12 v16 h-12 z M26 40 h7 v8 h-7" />
    <text x="42" y="27" class="name">{{ part.name }}</text>
    <text x="42" y="45" class="line">{{ line }}</text>
    <text x="42" y="62" class="line">{{ volts(now?.volts_v) }}</text>
  </g>
</template>

<style scoped>
.room {
  fill: rgb(var(--v-theme-surface));
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 1.5;
}
.mark {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 2;
}
text {
  fill: rgb(var(--v-theme-on-surface));
}
.name {
  font-size: 14px;
  font-weight: 700;
}
.line {
  font-size: 12.5px;
}
</style>
