<script setup lang="ts">
/** A window of the records of a bank: volts, amps, charge; drawn to, moved and zoomed by hand. */
import { keepPreviousData, useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";

import { api, unwrap } from "@/api/client";
import { queries } from "@/api/queries";
import { useWidth } from "@/shared/charts/useWidth";
import { day as onDay, hour } from "@/shared/formats";

const props = defineProps<{
  jobId: string;
  bank: string;
  /** Rows that are kept: other ones, and the window is asked for anew. */
  rows: number;
  /** From the first row to the last one [s]. */
  whole: [number, number];
  /** A stretch to look at [s]. */
  look: [number, number] | null;
}>();

const LANES = [
  { key: "volts_v", name: "Volts", unit: "V", digits: 2, times: 1 },
  { key: "amps_a", name: "Amps into the bank", unit: "A", digits: 1, times: 1 },
  { key: "charge", name: "Charge by the monitor", unit: "%", digits: 0, times: 100 },
  { key: "temperature_c", name: "Temperature", unit: "°C", digits: 0, times: 1 },
] as const;
const HEIGHT = 118;
const [LEFT, RIGHT, TOP, BOTTOM] = [62, 12, 20, 6];
const LEAST_S = 600;

const span = ref<[number, number] | null>(null);
const frame = ref<HTMLElement | null>(null);
const width = useWidth(frame, 700);
const chart = useQuery(
  {
    queryKey: computed(() => ["chart", props.jobId, props.bank, props.rows, span.value]),
    queryFn: () =>
      unwrap(
        api.GET("/api/jobs/{job_id}/records/chart", {
          params: {
            path: { job_id: props.jobId },
            query: { bank: props.bank, start_s: span.value?.[0], end_s: span.value?.[1] },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  },
  queries,
);
watch(
  () => props.look,
  (wanted) => wanted && (span.value = [Math.round(wanted[0]), Math.round(wanted[1])]),
  { immediate: true },
);
const shown = computed<[number, number]>(() => span.value ?? props.whole);
const x = (at: number) =>
  LEFT + ((at - shown.value[0]) / (shown.value[1] - shown.value[0])) * (width.value - LEFT - RIGHT);

const lanes = computed(() =>
  LANES.flatMap((lane) => {
    const column = chart.data.value?.columns[lane.key];
    if (!column?.at_s.length) return [];
    const values = column.values.map((value) => (value === null ? null : value * lane.times));
    const known = values.filter((value) => value !== null);
    const [least, most] = [Math.min(...known), Math.max(...known)];
    if (most === least) return [];
    const [low, high] = [lane.unit === "%" ? Math.min(least, 90) : least, most];
    const y = (value: number) =>
      HEIGHT - BOTTOM - ((value - low) / (high - low)) * (HEIGHT - TOP - BOTTOM);
    let path = "";
    let pen = "M";
    column.at_s.forEach((at, n) => {
      const value = values[n];
      if (value == null) pen = "M";
      else {
        path += `${pen}${x(at).toFixed(1)} ${y(value).toFixed(1)}`;
        pen = "L";
      }
    });
    const zero = low < 0 && high > 0 ? y(0) : null;
    return [{ ...lane, path, y, zero, ends: [low, high], times_s: column.at_s, values }];
  }),
);
const ticks = computed(() => {
  const [start, end] = shown.value;
  const count = Math.max(2, Math.floor(width.value / 150));
  return Array.from({ length: count }, (_, n) => start + ((n + 0.5) / count) * (end - start));
});
function stamp(at: number): string {
  const when = new Date(at * 1000);
  const days = (shown.value[1] - shown.value[0]) / 86400;
  const day = onDay(when);
  return days > 4 ? day : `${day} ${hour(when)}`;
}

function zoom(times: number, about = (shown.value[0] + shown.value[1]) / 2) {
  const [start, end] = shown.value;
  const wide = Math.max(LEAST_S, (end - start) * times);
  const share = (about - start) / (end - start);
  span.value = held(about - share * wide, wide);
}
function move(share: number) {
  const [start, end] = shown.value;
  span.value = held(start + share * (end - start), end - start);
}
function held(start: number, wide: number): [number, number] | null {
  const [first, last] = props.whole;
  if (wide >= last - first) return null;
  const from = Math.min(Math.max(start, first), last - wide);
  return [Math.round(from), Math.round(from + wide)];
}

/** Where somebody points, and from where they drag. */
const here = ref<number | null>(null);
const dragged = ref<number | null>(null);
function timeAt(event: PointerEvent | WheelEvent): number {
  const box = frame.value?.getBoundingClientRect();
  const share = (event.clientX - (box?.left ?? 0) - LEFT) / (width.value - LEFT - RIGHT);
  return shown.value[0] + Math.min(1, Math.max(0, share)) * (shown.value[1] - shown.value[0]);
}
function drop(event: PointerEvent) {
  const from = dragged.value;
  dragged.value = null;
  const to = timeAt(event);
  if (from === null || Math.abs(x(to) - x(from)) < 12) return;
  const wide = Math.max(LEAST_S, Math.abs(to - from));
  span.value = held(Math.min(from, to), wide);
}
function valueAt(lane: { times_s: number[]; values: (number | null)[]; digits: number }) {
  const at = here.value;
  if (at === null) return "";
  let n = lane.times_s.findIndex((time) => time > at);
  n = n < 0 ? lane.times_s.length - 1 : Math.max(0, n - 1);
  const value = lane.values[n];
  return value == null ? "no record" : value.toFixed(lane.digits);
}
</script>

<template>
  <figure aria-label="Records over time">
    <div class="tools">
      <v-btn size="small" @click="zoom(0.4)">Closer</v-btn>
      <v-btn size="small" :disabled="!span" @click="zoom(2.5)">Wider</v-btn>
      <v-btn size="small" :disabled="!span" @click="move(-0.5)">Earlier</v-btn>
      <v-btn size="small" :disabled="!span" @click="move(0.5)">Later</v-btn>
      <v-btn size="small" :disabled="!span" @click="span = null">All</v-btn>
      <span>{{ stamp(shown[0]) }} to {{ stamp(shown[1]) }}; drag over what to see closer</span>
    </div>
    <div
      ref="frame"
      class="frame"
      @pointerdown="dragged = timeAt($event)"
      @pointermove="here = timeAt($event)"
      @pointerup="drop"
      @pointerleave="here = dragged = null"
      @wheel.prevent="zoom($event.deltaY > 0 ? 1.5 : 0.67, timeAt($event))"
    >
      <svg
        v-for="lane in lanes"
        :key="lane.key"
        :width="width"
        :height="HEIGHT"
        role="img"
        :aria-label="`${lane.name}: ${lane.ends[0]?.toFixed(lane.digits)} to ${lane.ends[1]?.toFixed(lane.digits)} ${lane.unit}`"
      >
        <text class="name" :x="LEFT" :y="14">
          {{ lane.name }}, {{ lane.unit }}
          <tspan class="value">{{ valueAt(lane) }}</tspan>
        </text>
        <text
          v-for="end in lane.ends"
          :key="end"
          :x="LEFT - 6"
          :y="lane.y(end) + 4"
          text-anchor="end"
        >
          {{ end.toFixed(lane.digits) }}
        </text>
        <line
          v-if="lane.zero !== null"
          class="zero"
          :x1="LEFT"
          :x2="width - RIGHT"
          :y1="lane.zero"
          :y2="lane.zero"
        />
        <path :d="lane.path" :class="lane.key" />
        <line
          v-if="here !== null"
          class="here"
          :x1="x(here)"
          :x2="x(here)"
          :y1="TOP"
          :y2="HEIGHT"
        />
        <rect
          v-if="dragged !== null && here !== null"
          class="drag"
          :x="Math.min(x(dragged), x(here))"
          :width="Math.abs(x(here) - x(dragged))"
          :y="TOP"
          :height="HEIGHT - TOP"
        />
      </svg>
      <svg :width="width" height="20" aria-hidden="true">
        <text v-for="at in ticks" :key="at" :x="x(at)" y="14" text-anchor="middle">
          {{ stamp(at) }}
        </text>
      </svg>
    </div>
    <p v-if="chart.data.value && !lanes.length">No rows in this window.</p>
  </figure>
</template>

<style scoped>
figure {
  margin: 10px 0;
  min-width: 0;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.frame {
  touch-action: pan-y;
  user-select: none;
}
svg {
  display: block;
}
text {
  font-size: 12px;
  fill: rgb(var(--v-theme-on-background));
}
.name {
  font-size: 13px;
  font-weight: 700;
}
.value {
  font-size: 15px;
}
path {
  fill: none;
  stroke-width: 1.8;
  stroke: rgb(var(--v-theme-secondary));
}
.amps_a {
  stroke: rgb(var(--v-theme-warning));
}
.charge {
  stroke: rgb(var(--v-theme-success));
}
.zero {
  stroke: rgb(var(--v-theme-ink), 0.4);
  stroke-dasharray: 3 4;
}
.here {
  stroke: rgb(var(--v-theme-ink), 0.6);
}
.drag {
  fill: rgb(var(--v-theme-secondary), 0.2);
}
</style>
