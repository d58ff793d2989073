<script setup lang="ts">
import { computed } from "vue";

import { amps, volts, watts } from "@/shared/units";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"alternator" | "charger" | "solar" | "generator">>();

const MODES: Record<string, string> = {
  idle: "idle",
  unexcited: "nothing to start on!",
  loose: "no bank on it!",
  off: "held back",
  limit: "at its limit",
  voltage: "holds",
};
const now = computed(() => props.point?.sources[props.part.id]);
const title = computed(() => {
  const part = props.part;
  if (part.kind === "generator") return part.name;
  const size = part.kind === "solar" ? watts(part.panel_w) : amps(part.rated_a).replace(".0", "");
  return `${part.name} ${size}`;
});
const line = computed(() => {
  if (!now.value) return "";
  if (now.value.mode === "idle") {
    if (props.part.kind === "generator") {
      return props.part.driven_by === "wind" ? "no wind" : "no way on";
    }
    return { alternator: "engine stopped", charger: "shore lead out", solar: "no sun" }[
      props.part.kind
    ];
  }
  const words = MODES[now.value.mode] ?? "";
  return now.value.mode === "voltage" ? `${words} ${volts(now.value.set_v)}` : words;
});
const flowing = computed(() => (now.value?.current_a ?? 0) > 0.05);
const top = computed(() => (props.part.kind === "alternator" ? 16 : 4));
const rows = computed(() =>
  props.part.kind === "alternator"
    ? { name: 29, most: 2, line: 52 }
    : { name: 22, most: 1, line: 41 },
);
const sensing = computed(() => {
  if (props.part.kind !== "alternator") return "";
  return props.part.sensing === "external" ? "senses by its leads" : "senses at its own post";
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
    <g :transform="`translate(8 ${top})`" class="mark">
      <template v-if="part.kind === 'solar'">
        <circle cx="15" cy="20" r="7" class="sun" :class="{ lit: flowing }" />
        <path d="M15 6v4M15 30v4M1 20h4M25 20h4M5 10l3 3M22 27l3 3M5 30l3-3M22 13l3-3" />
      </template>
      <template v-else-if="part.kind === 'generator'">
        <path v-if="part.driven_by === 'wind'" d="M15 20V34M15 20L6 8M15 20L27 16M15 20L12 31" />
        <path v-else d="M2 14q6.500-7 13 0t13 0M2 24q6.500-7 13 0t13 0M15 28v6" />
        <circle cx="15" cy="20" r="3" />
      </template>
      <template v-else-if="part.kind === 'charger'">
        <path d="M4 28h22M7 28V17a8 8 0 0 1 16 0v11M15 9V4" />
        <path d="M15 28v6" />
      </template>
      <template v-else>
        <circle cx="15" cy="22" r="13" />
        <path d="M7 22q4-10 8 0t8 0" />
      </template>
    </g>
    <GlyphName :name="title" :x="44" :y="rows.name" :width="box.width - 50" :lines="rows.most" />
    <text
      x="44"
      :y="rows.line"
      class="line"
      :class="{ flowing, loose: now?.mode === 'loose' || now?.mode === 'unexcited' }"
    >
      <tspan v-if="flowing" class="strong">{{ amps(now?.current_a) }}</tspan>
      {{ line }}
    </text>
    <text v-if="sensing" x="44" :y="rows.line + 15" class="small">{{ sensing }}</text>
  </g>
</template>

<style scoped>
.sun.lit {
  fill: rgb(var(--v-theme-sun));
}
.flowing {
  fill: rgb(var(--v-theme-success));
}
.loose {
  fill: rgb(var(--v-theme-error));
  font-weight: 700;
}
</style>
