<script setup lang="ts">
import { computed } from "vue";

import { amps, volts } from "@/shared/units";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"one_way">>();

const now = computed(() => props.point?.converters?.[props.part.id]);
const runs = computed(() => now.value?.closed ?? false);
const WORDS = { closed: "PASSES", open: "RESTS", chatters: "CHATTERS" };
const words = computed(() => (now.value ? WORDS[now.value.verdict] : ""));
const flow = computed(() =>
  runs.value ? amps(now.value?.out_a) : `input ${volts(now.value?.in_v)}`,
);
const mirror = (x: number) => (props.box.mirrored ? 112 - x : x);
</script>

<template>
  <!-- A sluice with a narrow sill: it lets a little over, one way only. -->
  <g>
    <title>{{ now?.why }}</title>
    <path class="wall" d="M16 0 V24 M96 0 V24 M4 24 V58 H108 V24" />
    <path
      class="water"
      :class="{ runs }"
      :d="`M${mirror(7)} 32 H${mirror(52)} V55 H${mirror(7)} Z`"
    />
    <path class="water" :d="`M${mirror(60)} 44 H${mirror(105)} V55 H${mirror(60)} Z`" />
    <path class="gate" d="M56 30 V58" />
    <path
      v-if="runs"
      class="over"
      :d="`M${mirror(40)} 27 Q${mirror(58)} 20 ${mirror(68)} 36 M${mirror(60)} 33 L${mirror(68)} 37 L${mirror(73)} 29`"
    />
    <text x="22" y="12" class="small">{{ box.mirrored ? "out" : "in" }}</text>
    <text x="90" y="12" class="small" text-anchor="end">{{ box.mirrored ? "in" : "out" }}</text>
    <text x="56" y="74" class="small" text-anchor="middle">{{ part.limit_a }} A at most</text>
    <GlyphName :name="part.name" :x="116" :y="20" :width="80" />
    <text x="116" y="54" class="verdict" :class="now?.verdict">{{ words }}</text>
    <text x="116" y="72" class="small">{{ point ? flow : "" }}</text>
  </g>
</template>

<style scoped>
.wall,
.gate,
.over {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 3;
  stroke-linejoin: round;
}
.water {
  fill: rgb(var(--v-theme-water));
}
.over {
  stroke: rgb(var(--v-theme-wire));
}
</style>
