<script setup lang="ts">
import { computed } from "vue";

import { amps, volts } from "@/shared/units";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"dcdc">>();

const now = computed(() => props.point?.converters?.[props.part.id]);
const runs = computed(() => now.value?.closed ?? false);
const WORDS = { closed: "RUNS", open: "RESTS", chatters: "CHATTERS" };
const words = computed(() => (now.value ? WORDS[now.value.verdict] : ""));
const flow = computed(() =>
  runs.value
    ? `${amps(now.value?.in_a)} to ${amps(now.value?.out_a)}`
    : `input ${volts(now.value?.in_v)}`,
);
const mirror = (x: number) => (props.box.mirrored ? 112 - x : x);
</script>

<template>
  <!-- A lock between two levels: what is let in on one side is given out on the other. -->
  <g>
    <title>{{ now?.why }}</title>
    <path class="wall" d="M16 0 V20 M96 0 V20 M4 20 V62 H108 V20" />
    <path
      class="water"
      :class="{ runs }"
      :d="`M${mirror(7)} 44 H${mirror(54)} V59 H${mirror(7)} Z`"
    />
    <path
      class="water"
      :class="{ runs }"
      :d="`M${mirror(58)} 30 H${mirror(105)} V59 H${mirror(58)} Z`"
    />
    <path class="gate" d="M56 18 V62" />
    <path
      v-if="runs"
      class="lift"
      :d="`M${mirror(30)} 40 L${mirror(46)} 26 H${mirror(72)} M${mirror(64)} 19 L${mirror(74)} 26 L${mirror(64)} 33`"
    />
    <text x="22" y="12" class="small">{{ box.mirrored ? "out" : "in" }}</text>
    <text x="90" y="12" class="small" text-anchor="end">{{ box.mirrored ? "in" : "out" }}</text>
    <text x="56" y="79" class="small" text-anchor="middle">
      {{ part.limit_a }} A, {{ part.set_v }} V
    </text>
    <GlyphName :name="part.name" :x="116" :y="20" :width="88" />
    <text x="116" y="54" class="verdict" :class="now?.verdict">{{ words }}</text>
    <text x="116" y="72" class="small">{{ point ? flow : "" }}</text>
  </g>
</template>

<style scoped>
.wall,
.gate,
.lift {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 3;
  stroke-linejoin: round;
}
.gate {
  stroke-width: 4;
}
.water {
  fill: rgb(var(--v-theme-water));
}
.water.runs {
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 1;
}
.lift {
  stroke: rgb(var(--v-theme-wire));
}
</style>
