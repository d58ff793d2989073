<script setup lang="ts">
import { computed } from "vue";

import { amps, volts } from "@/shared/units";

import type { GlyphProps } from "../types";

const props = defineProps<GlyphProps<"loads">>();

const MAX_ROWS = 6;
const now = computed(() => props.point?.loads[props.part.id]);
const live = computed(() => !props.point || now.value?.volts_v != null);
const rows = computed(() => {
  const state = new Map((now.value?.items ?? []).map((item) => [item.id, item]));
  const all = props.part.items.map((item) => ({ ...item, now: state.get(item.id) }));
  // Those that draw most now come first.
  return all.sort((a, b) => (b.now?.current_a ?? 0) - (a.now?.current_a ?? 0));
});
const single = computed(() => props.part.items.length === 1);
const rest = computed(() => rows.value.length - MAX_ROWS);
const low = computed(() => rows.value.filter((row) => row.now?.below_minimum).length);

const NAME_LETTERS = 17;

/** A name that leaves room for the amps behind it; the whole one is shown when pointed at. */
function short(name: string, most = NAME_LETTERS): string {
  return name.length <= most ? name : `${name.slice(0, most - 1).trimEnd()}…`;
}

function draws(row: (typeof rows.value)[number]): string {
  if (!props.point) return amps(row.draw_a);
  if (!row.now?.on) return "off";
  if (!live.value) return "dead";
  return amps(row.now.current_a);
}
</script>

<template>
  <g :class="{ dead: !live }">
    <rect
      class="room"
      x="0.75"
      y="0.75"
      :width="box.width - 1.5"
      :height="box.height - 1.5"
      rx="9"
    />
    <text x="10" y="23" class="name">
      {{ short(part.name, single ? 19 : 15) }}<title>{{ part.name }}</title>
    </text>
    <text v-if="!single" :x="box.width - 10" y="23" class="volts" text-anchor="end">
      {{ live ? (point ? volts(now?.volts_v) : "") : "no feed" }}
    </text>
    <text v-if="single && rows[0]" x="10" y="43" class="line">
      <tspan class="strong">{{ draws(rows[0]) }}</tspan>
      {{ live ? (point ? `at ${volts(now?.volts_v)}` : "") : "· no feed" }}
    </text>
    <template v-if="!single">
      <g v-for="(row, n) in rows.slice(0, MAX_ROWS)" :key="row.id">
        <path
          class="pennant"
          :class="{ on: row.now?.on && live }"
          :d="`M10 ${33 + n * 17} v11 M10 ${33 + n * 17} l9 3.500 l-9 3.500`"
        />
        <text x="25" :y="43 + n * 17" class="line" :class="{ low: row.now?.below_minimum }">
          {{ short(row.name) }}<title>{{ row.name }}</title>
        </text>
        <text :x="box.width - 10" :y="43 + n * 17" class="line" text-anchor="end">
          {{ draws(row) }}
        </text>
      </g>
      <text v-if="rest > 0" x="25" :y="43 + MAX_ROWS * 17" class="line">and {{ rest }} more</text>
      <text
        v-if="low"
        :x="box.width - 10"
        :y="43 + MAX_ROWS * 17"
        class="line low"
        text-anchor="end"
      >
        ◆ {{ low }} too low
      </text>
    </template>
  </g>
</template>

<style scoped>
.volts {
  font-size: 14px;
  font-weight: 700;
}
.dead .room {
  stroke-dasharray: 5 5;
}
.low {
  fill: rgb(var(--v-theme-warning));
  font-weight: 700;
}
.pennant {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 1.5;
}
.pennant.on {
  fill: rgb(var(--v-theme-warning));
}
</style>
