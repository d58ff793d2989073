<script setup lang="ts">
import { computed } from "vue";

import { amps, volts } from "@/shared/units";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"starter">>();

const now = computed(() => props.point?.starters[props.part.id]);
const line = computed(() => {
  if (!props.point) return `${props.part.cranking_a} A cranking`;
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
    <GlyphName :name="part.name" :x="42" :y="29" :width="70" />
    <text x="42" y="52" class="line">{{ line }}</text>
    <text v-if="point" x="42" y="67" class="line">{{ volts(now?.volts_v) }}</text>
  </g>
</template>
