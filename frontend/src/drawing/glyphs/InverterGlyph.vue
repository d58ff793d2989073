<script setup lang="ts">
import { computed } from "vue";

import { amps, volts, watts } from "@/shared/units";

import type { GlyphProps } from "../types";

const props = defineProps<GlyphProps<"inverter">>();

const MAX_ROWS = 6;
const now = computed(() => props.point?.loads[props.part.id]);
const source = computed(() => props.point?.sources[props.part.id]);
const contact = computed(() => props.point?.contacts?.[props.part.id]);
const live = computed(() => !props.point || now.value?.volts_v != null);
const charging = computed(() => (source.value?.current_a ?? 0) > 0.05);
const state = computed(() => {
  if (!props.point) return "";
  if (!live.value) return "no feed";
  if (charging.value) return `charges ${amps(source.value?.current_a)}`;
  if (contact.value?.verdict === "closed") return `takes ${amps(now.value?.current_a)}`;
  if (props.position === "off") return "off";
  return contact.value?.rests ? "shore passes" : "CUT OUT";
});
const rows = computed(() => {
  const on = new Map((now.value?.items ?? []).map((item) => [item.id, item.on]));
  return (props.part.items ?? []).map((item) => ({ ...item, on: on.get(item.id) ?? false }));
});
const size = computed(() => watts(props.part.rated_w));
</script>

<template>
  <g :class="{ dead: !live }">
    <title>{{ contact?.why }}</title>
    <rect
      class="room"
      x="0.75"
      y="0.75"
      :width="box.width - 1.5"
      :height="box.height - 1.5"
      rx="9"
    />
    <path class="wave" d="M10 18 q4.500 -11 9 0 t9 0" />
    <text x="34" y="22" class="name">{{ part.name }} {{ size }}</text>
    <text x="10" y="42" class="line strong" :class="{ cut: state === 'CUT OUT' }">
      {{ state }}{{ live && point ? ` at ${volts(now?.volts_v)}` : "" }}
    </text>
    <g v-for="(row, n) in rows.slice(0, MAX_ROWS - 1)" :key="row.id">
      <text x="10" :y="59 + n * 17" class="line">{{ row.name }}</text>
      <text :x="box.width - 10" :y="59 + n * 17" class="line" text-anchor="end">
        {{ row.on || !point ? watts(row.power_w) : "off" }}
      </text>
    </g>
  </g>
</template>

<style scoped>
.wave {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 2.2;
}
.dead .room {
  stroke-dasharray: 5 5;
}
.strong {
  font-weight: 700;
}
.cut {
  fill: rgb(var(--v-theme-error));
}
</style>
