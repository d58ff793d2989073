<script setup lang="ts">
/** Readings of one kind over time, in the band of a sound boat, and what the trend comes to. */
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import { rangeOf } from "@/shared/charts/curves";
import { useWidth } from "@/shared/charts/useWidth";
import { day as onDay } from "@/shared/formats";

import { MARKS } from "./useLog";

const props = defineProps<{ trend: Schemas["TrendOut"] }>();

const HEIGHT = 130;
const [LEFT, RIGHT, TOP, BOTTOM] = [48, 14, 8, 22];
const frame = ref<SVGSVGElement | null>(null);
const width = useWidth(frame, 320);
const unit = computed(() => props.trend.kind.unit);
const points = computed(() => props.trend.points);
const first = computed(() => points.value[0]?.at_s ?? 0);
const last = computed(() => points.value.at(-1)?.at_s ?? 1);
const band = computed(() => [props.trend.low, props.trend.high].filter((v) => v !== null));
const range = computed(() => rangeOf([...points.value.map((p) => p.value), ...band.value]));
const x = (at: number) =>
  LEFT +
  ((at - first.value) / Math.max(1, last.value - first.value)) * (width.value - LEFT - RIGHT);
const y = (value: number) =>
  HEIGHT -
  BOTTOM -
  ((value - range.value[0]) / (range.value[1] - range.value[0])) * (HEIGHT - BOTTOM - TOP);
const path = computed(() => points.value.map((p) => `${x(p.at_s)},${y(p.value)}`).join(" "));
const now = computed(() => MARKS[props.trend.latest.mark]);
const day = (s: number) => onDay(s * 1000);
</script>

<template>
  <article class="card" :aria-label="`${trend.target_name}: ${trend.kind.words}`">
    <h3>{{ trend.target_name || trend.target }}: {{ trend.kind.words }}</h3>
    <p class="latest">
      <strong>{{ points.at(-1)?.value }} {{ unit }}</strong>
      <span :class="`text-${now?.color}`">{{ now?.mark }} {{ trend.latest.why }}</span>
    </p>
    <svg
      ref="frame"
      :height="HEIGHT"
      role="img"
      :aria-label="`${points.length} readings over time`"
    >
      <rect
        v-if="trend.low !== null && trend.high !== null"
        class="band"
        :x="LEFT"
        :width="Math.max(0, width - LEFT - RIGHT)"
        :y="y(trend.high)"
        :height="Math.max(0, y(trend.low) - y(trend.high))"
      />
      <text v-for="value in range" :key="value" :x="LEFT - 6" :y="y(value) + 4" text-anchor="end">
        {{ value }}
      </text>
      <text :x="LEFT" :y="HEIGHT - 5">{{ day(first) }}</text>
      <text v-if="points.length > 1" :x="width - RIGHT" :y="HEIGHT - 5" text-anchor="end">
        {{ day(last) }}
      </text>
      <polyline :points="path" />
      <circle
        v-for="point in points"
        :key="point.at_s"
        :class="`mark-${point.mark}`"
        :cx="x(point.at_s)"
        :cy="y(point.value)"
        r="5"
      />
    </svg>
    <template v-if="trend.ageing">
      <p v-if="trend.ageing.refused">Ageing: {{ trend.ageing.refused }}.</p>
      <template v-else>
        <p v-for="line in trend.ageing.working" :key="line">{{ line }}</p>
        <p v-if="trend.ageing.below_now" class="text-error">▲ Below what is needed already.</p>
        <p v-else-if="trend.ageing.below_at_s !== null" class="text-warning">
          ◆ Below what is needed about {{ day(trend.ageing.below_at_s) }}
          <span v-if="trend.ageing.earliest_s !== null">
            (at the earliest {{ day(trend.ageing.earliest_s) }})
          </span>
        </p>
      </template>
    </template>
    <p v-if="trend.latest.source" class="source">Band: {{ trend.latest.source }}</p>
  </article>
</template>

<style scoped>
h3 {
  font-size: 1.05rem;
}
.latest strong {
  font-size: 1.5rem;
  margin-right: 10px;
}
svg {
  display: block;
  width: 100%;
}
text {
  font-size: 12px;
  fill: currentColor;
}
.band {
  fill: rgb(var(--v-theme-success), 0.16);
}
polyline {
  fill: none;
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 2.4;
}
circle {
  fill: rgb(var(--v-theme-info));
}
.mark-good {
  fill: rgb(var(--v-theme-success));
}
.mark-caution {
  fill: rgb(var(--v-theme-warning));
}
.mark-bad {
  fill: rgb(var(--v-theme-error));
}
.source {
  font-size: 0.82rem;
  opacity: 0.85;
}
</style>
