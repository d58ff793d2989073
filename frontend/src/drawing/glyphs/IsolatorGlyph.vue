<script setup lang="ts">
import { computed } from "vue";

import { amps, volts } from "@/shared/units";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"isolator">>();

const SORTS = { silicon: "silicon diodes", schottky: "Schottky diodes", fet: "transistors" };
const outs = computed(() => {
  const at = props.part.outputs === 3 ? [16, 56, 96] : [16, 96];
  const places = props.box.mirrored ? at.map((x) => 112 - x) : at;
  return places.map((x, n) => {
    const now = props.point?.passing?.[`${props.part.id}.out${n + 1}`];
    return { x, name: String(n + 1), open: (now?.current_a ?? 0) > 0.005, now };
  });
});
const pool = computed(() => {
  const ins = props.part.inputs === 2 ? "M36 78 V60 M76 78 V60" : "M56 78 V60";
  return `${ins} M6 60 H106${props.part.excitation_post ? " M96 78 V64" : ""}`;
});
const drop = computed(() => {
  const passing = outs.value.filter((out) => out.open).map((out) => out.now?.drop_v ?? 0);
  return passing.length ? `drops ${volts(Math.max(...passing))}` : "lets nothing by";
});
</script>

<template>
  <!-- A weir: water goes over the sill, and never back up. -->
  <g>
    <title>{{ outs.map((out) => `${out.name}: ${amps(out.now?.current_a)}`).join(", ") }}</title>
    <path class="pool" :d="pool" />
    <text v-if="part.excitation_post" x="102" y="75" class="small" text-anchor="end">exc</text>
    <g v-for="out in outs" :key="out.name" :class="{ open: out.open }">
      <path class="fall" :d="`M${out.x} 60 V46 M${out.x} 26 V0`" />
      <path class="sill" :d="`M${out.x - 11} 26 H${out.x + 11}`" />
      <path class="flow" :d="`M${out.x - 9} 46 H${out.x + 9} L${out.x} 29 Z`" />
      <text :x="out.x + 7" y="14" class="small">{{ out.name }}</text>
    </g>
    <GlyphName :name="part.name" :x="118" :y="24" :width="78" />
    <text x="118" y="58" class="small">{{ SORTS[part.sort] }}</text>
    <text x="118" y="74" class="small strong">{{ point ? drop : "" }}</text>
  </g>
</template>

<style scoped>
.pool,
.fall,
.sill {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 3;
}
.sill {
  stroke-width: 4;
}
.flow {
  fill: rgb(var(--v-theme-surface));
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 2;
}
.open .flow {
  fill: rgb(var(--v-theme-wire));
}
.strong {
  font-weight: 700;
}
</style>
