<script setup lang="ts">
/** The time line of a plan: lanes of spans that are picked, moved and stretched; switch moves. */
import { computed, ref } from "vue";

import { ticks } from "./clock";
import type { Plan } from "./dayStore";
import { LANES, laneRows, round, spansOf, withSpans, type Lane, type LaneId } from "./planEdits";
import { cut, fitsIn, useWidth } from "@/shared/charts/useWidth";

const props = defineProps<{
  plan: Plan;
  lanes: LaneId[];
  picked: { lane: string; n: number } | null;
  profiles: Record<string, string>;
  switches: Record<string, string>;
  /** Names of items, as feed.item, and of sources. */
  named: Record<string, string>;
}>();
const emit = defineEmits<{ pick: [lane: string, n: number]; change: [plan: Plan] }>();

const ROW = 44;
const AXIS = 24;
const LEFT = 116;
const RIGHT = 14;
const EDGE = 10;
const frame = ref<SVGSVGElement | null>(null);
const width = useWidth(frame);
const inner = computed(() => width.value - LEFT - RIGHT);
const hours = computed(() => props.plan.hours ?? 24);
const x = (hour: number) => LEFT + (hour / hours.value) * inner.value;
const shown = computed(() =>
  laneRows(
    props.plan,
    LANES.filter((lane) => props.lanes.includes(lane.id)),
  ),
);
const rowName = (lane: Lane, own: string | null) =>
  own === null ? lane.name : cut(props.named[own] ?? own, 15);
const height = computed(() => AXIS + (shown.value.length + 1) * ROW + 4);
const marks = computed(() => ticks(props.plan.clock_h ?? 0, hours.value, inner.value / 74));

type Grip = "start" | "end" | "all";
const held = ref<{ lane: LaneId; n: number; grip: Grip; from: number; now: number } | null>(null);

function hourAt(event: PointerEvent): number {
  const left = frame.value?.getBoundingClientRect().left ?? 0;
  return ((event.clientX - left - LEFT) / inner.value) * hours.value;
}

const spanAt = (lane: LaneId, n: number) =>
  spansOf(props.plan, lane)[n] ?? { start_h: 0, end_h: hours.value };

function grab(event: PointerEvent, lane: LaneId, n: number) {
  const span = spanAt(lane, n);
  const at = LEFT + (hourAt(event) / hours.value) * inner.value;
  let grip: Grip = "all";
  if (at < x(span.start_h) + EDGE) grip = "start";
  else if (at > x(span.end_h) - EDGE) grip = "end";
  const hour = hourAt(event);
  held.value = { lane, n, grip, from: hour, now: hour };
  emit("pick", lane, n);
  frame.value?.setPointerCapture(event.pointerId);
}

function drag(event: PointerEvent) {
  if (held.value) held.value.now = hourAt(event);
}

/** A span as it stands while it is held. */
function standing(lane: LaneId, n: number) {
  const span = spanAt(lane, n);
  const now = held.value;
  if (!now || now.lane !== lane || now.n !== n) return span;
  const by = round(now.now - now.from);
  const long = span.end_h - span.start_h;
  const clamp = (hour: number) => Math.min(Math.max(0, hour), hours.value);
  if (now.grip === "start") {
    return { ...span, start_h: Math.min(clamp(span.start_h + by), span.end_h - 1 / 12) };
  }
  if (now.grip === "end") {
    return { ...span, end_h: Math.max(clamp(span.end_h + by), span.start_h + 1 / 12) };
  }
  const start = Math.min(clamp(span.start_h + by), hours.value - long);
  return { ...span, start_h: start, end_h: start + long };
}

function drop() {
  const now = held.value;
  if (!now) return;
  const spans = spansOf(props.plan, now.lane);
  const moved = standing(now.lane, now.n);
  const was = spanAt(now.lane, now.n);
  const same = moved.start_h === was.start_h && moved.end_h === was.end_h;
  held.value = null;
  if (same) return;
  spans[now.n] = moved;
  emit("change", withSpans(props.plan, now.lane, spans));
}

function words(lane: Lane, n: number): string {
  const text = lane.words(spanAt(lane.id, n));
  return lane.id === "living" ? (props.profiles[text] ?? text) : text;
}
const isPicked = (lane: string, n: number) => props.picked?.lane === lane && props.picked.n === n;
</script>

<template>
  <div class="line">
    <svg
      ref="frame"
      :width="width"
      :height="height"
      role="group"
      aria-label="Time line of the plan"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="held = null"
    >
      <g v-for="mark in marks" :key="mark.hour" class="tick" :class="{ midnight: mark.midnight }">
        <line :x1="x(mark.hour)" :x2="x(mark.hour)" :y1="AXIS - 4" :y2="height" />
        <text :x="x(mark.hour)" :y="AXIS - 9" text-anchor="middle">{{ mark.words }}</text>
      </g>
      <g v-for="({ lane, own, spans }, row) in shown" :key="`${lane.id} ${own}`">
        <text class="name" :x="LEFT - 10" :y="AXIS + row * ROW + 27" text-anchor="end">
          {{ rowName(lane, own) }}
        </text>
        <rect
          class="bed"
          :x="LEFT"
          :y="AXIS + row * ROW + 3"
          :width="inner"
          :height="ROW - 6"
          rx="6"
        />
        <g
          v-for="n in spans"
          :key="n"
          class="span"
          :class="[lane.id, { picked: isPicked(lane.id, n) }]"
          tabindex="0"
          role="button"
          :aria-label="`${rowName(lane, own)}: ${words(lane, n)}`"
          :aria-pressed="isPicked(lane.id, n)"
          @pointerdown.prevent="grab($event, lane.id, n)"
          @keydown.enter.prevent="emit('pick', lane.id, n)"
          @keydown.space.prevent="emit('pick', lane.id, n)"
        >
          <rect
            :x="x(standing(lane.id, n).start_h)"
            :y="AXIS + row * ROW + 3"
            :width="Math.max(8, x(standing(lane.id, n).end_h) - x(standing(lane.id, n).start_h))"
            :height="ROW - 6"
            rx="6"
          />
          <text
            v-if="
              fitsIn(
                words(lane, n),
                x(standing(lane.id, n).end_h) - x(standing(lane.id, n).start_h),
              )
            "
            :x="(x(standing(lane.id, n).start_h) + x(standing(lane.id, n).end_h)) / 2"
            :y="AXIS + row * ROW + 27"
            text-anchor="middle"
          >
            {{ words(lane, n) }}
          </text>
        </g>
      </g>
      <g>
        <text class="name" :x="LEFT - 10" :y="AXIS + shown.length * ROW + 27" text-anchor="end">
          Switches
        </text>
        <g
          v-for="(move, n) in plan.moves ?? []"
          :key="n"
          class="move"
          :class="{ picked: isPicked('moves', n) }"
          tabindex="0"
          role="button"
          :aria-label="`${switches[move.switch] ?? move.switch} to ${move.position}`"
          :aria-pressed="isPicked('moves', n)"
          @click="emit('pick', 'moves', n)"
          @keydown.enter.prevent="emit('pick', 'moves', n)"
          @keydown.space.prevent="emit('pick', 'moves', n)"
        >
          <rect
            class="touch"
            :x="x(move.at_h) - 14"
            :y="AXIS + shown.length * ROW"
            width="28"
            :height="ROW"
          />
          <line
            :x1="x(move.at_h)"
            :x2="x(move.at_h)"
            :y1="AXIS + shown.length * ROW + 4"
            :y2="AXIS + shown.length * ROW + 40"
          />
          <circle :cx="x(move.at_h)" :cy="AXIS + shown.length * ROW + (n % 2 ? 31 : 13)" r="8" />
        </g>
      </g>
    </svg>
  </div>
</template>

<style src="./axis.css" scoped></style>
<style scoped>
.line {
  overflow: hidden;
}
svg {
  display: block;
  user-select: none;
  touch-action: pan-y;
}
text {
  font-size: 13.5px;
  fill: rgb(var(--v-theme-on-background));
}
.name {
  font-weight: 700;
}
.span,
.move {
  cursor: pointer;
  outline: none;
}
.span rect {
  fill: rgb(var(--v-theme-secondary));
}
.span text {
  fill: rgb(var(--v-theme-on-secondary));
  font-weight: 700;
  pointer-events: none;
}
.span.sources_off rect {
  fill: rgb(var(--v-theme-ink), 0.6);
}
.span.engine rect {
  fill: rgb(var(--v-theme-success));
}
.span.living rect,
.span.sky rect,
.span.temperature rect {
  fill: rgb(var(--v-theme-water));
}
.span.living text,
.span.sky text,
.span.temperature text {
  fill: rgb(var(--v-theme-on-background));
}
.span.picked rect,
.span:focus-visible rect {
  stroke: rgb(var(--v-theme-warning));
  stroke-width: 4;
}
.touch {
  fill: transparent;
}
.move line {
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2;
}
.move circle {
  fill: rgb(var(--v-theme-primary));
}
.move.picked circle,
.move:focus-visible circle {
  stroke: rgb(var(--v-theme-warning));
  stroke-width: 4;
}
</style>
