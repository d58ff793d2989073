<script setup lang="ts">
/** Lines over time, each told apart by colour and dash; pointed at, each says its value there. */
import { computed, ref } from "vue";

import { lastNotAfter, rangeOf } from "./curves";
import { useWidth } from "./useWidth";

export interface Line {
  name: string;
  /** x and y of each point, x rising. */
  points: [number, number][];
  strong?: boolean;
}

const props = defineProps<{
  lines: Line[];
  xUnit: string;
  yUnit: string;
  xMax?: number;
  step?: boolean;
  label: string;
}>();

const HEIGHT = 210;
const [LEFT, RIGHT, TOP, BOTTOM] = [56, 28, 10, 28];
const TICKS = [0.5, 1, 2, 3, 5, 10, 20, 50, 100, 200];
const TICK_WIDTH = 90;

const frame = ref<SVGSVGElement | null>(null);
const width = useWidth(frame, 600);
const points = computed(() => props.lines.flatMap((line) => line.points));
const end = computed(() => props.xMax ?? Math.max(1, ...points.value.map(([x]) => x)));
const range = computed(() => rangeOf([0, ...points.value.map(([, y]) => y)]));
const x = (value: number) => LEFT + (value / end.value) * (width.value - LEFT - RIGHT);
const y = (value: number) => {
  const [low, high] = range.value;
  return HEIGHT - BOTTOM - ((value - low) / (high - low)) * (HEIGHT - BOTTOM - TOP);
};
const across = computed(() => {
  const most = Math.max(1, (width.value - LEFT - RIGHT) / TICK_WIDTH);
  const apart = TICKS.find((one) => end.value / one <= most) ?? end.value;
  return Array.from({ length: Math.floor(end.value / apart) + 1 }, (_, n) => n * apart);
});
const up = computed(() => {
  const [low, high] = range.value;
  return [0, 0.25, 0.5, 0.75, 1].map((share) => low + share * (high - low));
});

function path({ points }: Line) {
  let drawn = "";
  for (const [px, py] of points) {
    const [at, height] = [x(px).toFixed(1), y(py).toFixed(1)];
    drawn += !drawn ? `M${at} ${height}` : props.step ? `H${at}V${height}` : `L${at} ${height}`;
  }
  return drawn;
}

/** Where along the axis somebody points. */
const here = ref<number | null>(null);
function pointTo(event: PointerEvent) {
  const box = frame.value?.getBoundingClientRect();
  if (!box) return;
  const share = (event.clientX - box.left - LEFT) / (width.value - LEFT - RIGHT);
  here.value = share < 0 || share > 1 ? null : share * end.value;
}
const there = ({ points }: Line) => {
  const columns = points.map(([px]) => px);
  return here.value === null ? null : points[lastNotAfter(columns, here.value)]?.[1];
};
const written = (value: number) => `${Number(value.toFixed(1))}`;
</script>

<template>
  <figure>
    <figcaption>
      <span v-for="(line, n) in lines" :key="line.name">
        <svg width="34" height="10" aria-hidden="true">
          <line class="path" :class="`line-${n % 5}`" x1="0" x2="34" y1="5" y2="5" />
        </svg>
        {{ line.name }}
        <b v-if="there(line) != null" class="value">{{ there(line)?.toFixed(1) }} {{ yUnit }}</b>
      </span>
    </figcaption>
    <svg
      ref="frame"
      :width="width"
      :height="HEIGHT"
      role="img"
      :aria-label="label"
      @pointermove="pointTo"
      @pointerleave="here = null"
    >
      <g v-for="value in up" :key="value" class="grid">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(value)" :y2="y(value)" />
        <text class="range" :x="LEFT - 8" :y="y(value) + 4" text-anchor="end">
          {{ written(value) }} {{ yUnit }}
        </text>
      </g>
      <text
        v-for="value in across"
        :key="value"
        class="range"
        :x="x(value)"
        :y="HEIGHT - 8"
        text-anchor="middle"
      >
        {{ written(value) }}{{ xUnit }}
      </text>
      <path
        v-for="(line, n) in lines"
        :key="line.name"
        class="path"
        :class="[`line-${n % 5}`, { strong: line.strong }]"
        :d="path(line)"
      />
      <line
        v-if="here !== null"
        class="here"
        :x1="x(here)"
        :x2="x(here)"
        :y1="TOP"
        :y2="HEIGHT - BOTTOM"
      />
    </svg>
  </figure>
</template>

<style src="./lines.css" scoped></style>
<style scoped>
figure {
  margin: 0;
  min-width: 0;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  min-height: 24px;
}
svg {
  display: inline-block;
  vertical-align: middle;
}
text {
  fill: rgb(var(--v-theme-on-background));
}
.strong {
  stroke-width: 4;
}
.here {
  stroke: rgb(var(--v-theme-ink), 0.6);
}
</style>
