<script setup lang="ts">
/** Everything of a day on one time axis: strips of what stood how, charge, volts, amps, starts. */
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import { amps, percent, volts } from "@/shared/units";

import { clock, nightsOf, ticks } from "./clock";
import { CURVE, curveOf, inOrder, lastNotAfter, type Wanted } from "@/shared/charts/curves";
import type { Sheet } from "./dayStore";
import { cut, fitsIn, useWidth } from "@/shared/charts/useWidth";

const props = defineProps<{ sheet: Sheet; at: number; names: Record<string, string> }>();
const emit = defineEmits<{ point: [seconds: number] }>();

const RIGHT = 14;
const STRIP = 20;
const AXIS = 30;
const GAP = 8;
const MOST_STRIPS = 12;

const frame = ref<SVGSVGElement | null>(null);
const width = useWidth(frame);
const narrow = computed(() => width.value < 560);
const left = computed(() => (narrow.value ? 148 : 204));
/** What a legend has room for: how long its sample of the line is, how many letters follow. */
const legend = computed(() =>
  narrow.value ? { line: 12, letters: 9 } : { line: 24, letters: 15 },
);
const end = computed(() => (props.sheet.plan.hours ?? 24) * 3600);
const inner = computed(() => width.value - left.value - RIGHT);
const x = (seconds: number) => left.value + (seconds / end.value) * inner.value;

/** Where in the series the pointed moment lies. */
const here = computed(() => lastNotAfter(props.sheet.series.at_s, props.at));

const name = (id: string) => props.names[id] ?? id;
const named = (table: Record<string, number[]>) =>
  inOrder(table, props.names).map(([id, column]): [string, number[]] => [name(id), column]);

const FIRST = ["engine", "shore", "switch"];
const above = computed(() => props.sheet.strips.filter((s) => FIRST.includes(s.kind)));
const below = computed(() =>
  props.sheet.strips.filter((s) => !FIRST.includes(s.kind)).slice(0, MOST_STRIPS),
);
const short = (text: string) => (narrow.value ? cut(text, 17) : text);
const living = computed(() => props.sheet.plan.living ?? []);

/** Volts at each alternator while it gives: what its regulator may take for its bank's. */
const machines = computed(() => {
  const { source_v, source_a, volts_v, warmth_c } = props.sheet.series;
  const given = Object.keys(source_v).filter(
    (id) => id in warmth_c && (source_a[id] ?? []).some((a) => a > 0.1),
  );
  const rest = Object.values(volts_v)[0] ?? [];
  return given.map((id): [string, number[]] => [
    `At ${name(id)}`,
    (source_v[id] ?? []).map((v, n) => v ?? rest[n] ?? 0),
  ]);
});

const rows = computed(() => {
  let y = AXIS;
  const upper = above.value.map((strip) => ({ strip, y: (y += STRIP + 4) - STRIP - 4 }));
  const life = y;
  if (living.value.length) y += STRIP + 4;
  y += GAP;
  const { series } = props.sheet;
  const given = Object.entries(series.source_a).filter(([, c]) => c.some((a) => Math.abs(a) > 0.1));
  const wanted: Wanted[] = [
    { title: "Charge", columns: named(series.soc), write: percent, range: [0, 1] },
    { title: "Volts", columns: [...named(series.volts_v), ...machines.value], write: volts },
    {
      title: "Amps",
      columns: [...named(Object.fromEntries(given)), ["All loads", series.loads_a]],
      write: amps,
    },
  ];
  const xs = series.at_s.map((seconds) => x(seconds).toFixed(1));
  const curves = wanted.map((one, n) => curveOf(one, y + n * (CURVE + GAP + 6), xs));
  y += 3 * (CURVE + GAP + 6);
  const lower = below.value.map((strip) => ({ strip, y: (y += STRIP + 4) - STRIP - 4 }));
  const starts = y;
  return { upper, life, curves, lower, starts, height: y + STRIP + 8 };
});

const marks = computed(() =>
  ticks(props.sheet.plan.clock_h ?? 0, props.sheet.plan.hours ?? 24, inner.value / 74),
);
const nights = computed(() => nightsOf(props.sheet.events, end.value));
const starts = computed(() =>
  props.sheet.report.starts.map((s) => ({
    x: x(s.at_s),
    words: `${s.volts_v == null ? "no bank" : volts(s.volts_v)} ${s.started ? "✓" : "✗ fails"}`,
    started: s.started,
  })),
);
const events = computed(() =>
  props.sheet.events.filter((e) => ["hazard", "fuse", "load", "stage", "join"].includes(e.kind)),
);
const words = computed(() =>
  clock(props.sheet.plan.clock_h ?? 0, props.at, props.sheet.plan.hours ?? 24),
);

const fits = (piece: Schemas["StripPiece"], state: string) =>
  fitsIn(state, x(piece.end_s) - x(piece.start_s));
const livingName = (id: string) => props.names[`profile ${id}`] ?? id;

function pointTo(event: PointerEvent) {
  if (event.buttons !== 1 || !frame.value) return;
  const box = frame.value.getBoundingClientRect();
  emit("point", ((event.clientX - box.left - left.value) / inner.value) * end.value);
}

const STEPS: Record<string, number> = {
  ArrowLeft: -600,
  ArrowRight: 600,
  PageDown: -3600,
  PageUp: 3600,
};
function onKey(event: KeyboardEvent) {
  if (event.key === "Home") emit("point", 0);
  else if (event.key === "End") emit("point", end.value);
  else if (event.key in STEPS) emit("point", props.at + (STEPS[event.key] ?? 0));
  else return;
  event.preventDefault();
}
</script>

<template>
  <div class="line">
    <svg
      ref="frame"
      :width="width"
      :height="rows.height"
      tabindex="0"
      role="slider"
      aria-label="Moment of the day"
      aria-valuemin="0"
      :aria-valuemax="Math.round(end)"
      :aria-valuenow="Math.round(at)"
      :aria-valuetext="words"
      @pointerdown="pointTo"
      @pointermove="pointTo"
      @keydown="onKey"
    >
      <rect
        v-for="[from, to] in nights"
        :key="from"
        class="night"
        :x="x(from)"
        :y="AXIS"
        :width="x(to) - x(from)"
        :height="rows.height - AXIS"
      />
      <g v-for="mark in marks" :key="mark.hour" class="tick" :class="{ midnight: mark.midnight }">
        <line
          :x1="x(mark.hour * 3600)"
          :x2="x(mark.hour * 3600)"
          :y1="AXIS - 4"
          :y2="rows.height"
        />
        <text :x="x(mark.hour * 3600)" :y="AXIS - 17" text-anchor="middle">{{ mark.words }}</text>
      </g>
      <g v-if="living.length">
        <text class="name" :x="left - 8" :y="rows.life + 15" text-anchor="end">Life aboard</text>
        <g v-for="span in living" :key="span.start_h" class="piece life">
          <rect
            :x="x(span.start_h * 3600)"
            :y="rows.life"
            :width="Math.max(1, x(span.end_h * 3600) - x(span.start_h * 3600))"
            :height="STRIP"
            rx="4"
          />
          <text
            v-if="x(span.end_h * 3600) - x(span.start_h * 3600) > 80"
            :x="(x(span.start_h * 3600) + x(span.end_h * 3600)) / 2"
            :y="rows.life + 15"
            text-anchor="middle"
          >
            {{ livingName(span.profile) }}
          </text>
        </g>
      </g>
      <g v-for="{ strip, y } in [...rows.upper, ...rows.lower]" :key="strip.kind + strip.part">
        <text class="name" :x="left - 8" :y="y + 15" text-anchor="end">
          {{ short(strip.name) }}
        </text>
        <rect class="bed" :x="left" :y="y" :width="inner" :height="STRIP" rx="4" />
        <template v-for="piece in strip.pieces" :key="piece.start_s">
          <g
            v-if="piece.state && piece.state !== strip.rest"
            class="piece"
            :class="[strip.kind, piece.state]"
          >
            <rect
              :x="x(piece.start_s)"
              :y="y"
              :width="Math.max(1.5, x(piece.end_s) - x(piece.start_s))"
              :height="STRIP"
              rx="4"
            />
            <text
              v-if="fits(piece, piece.state)"
              :x="(x(piece.start_s) + x(piece.end_s)) / 2"
              :y="y + 15"
              text-anchor="middle"
            >
              {{ piece.state }}
            </text>
          </g>
        </template>
      </g>
      <g v-for="row in rows.curves" :key="row.title" class="curve">
        <rect class="bed" :x="left" :y="row.y" :width="inner" :height="CURVE" rx="6" />
        <g v-for="line in row.grid" :key="line.y" class="grid">
          <line :x1="left" :x2="left + inner" :y1="line.y" :y2="line.y" />
        </g>
        <text class="title" x="6" :y="row.y + 13">{{ row.title }}</text>
        <text class="range" :x="left - 6" :y="row.y + 12" text-anchor="end">
          {{ row.grid[2]?.words }}
        </text>
        <text class="range" :x="left - 6" :y="row.y + CURVE" text-anchor="end">
          {{ row.grid[0]?.words }}
        </text>
        <path
          v-for="line in row.lines"
          :key="line.name"
          :d="line.path"
          class="path"
          :class="`line-${line.n % 5}`"
        />
        <g
          v-for="line in row.lines"
          :key="`k${line.name}`"
          :transform="`translate(0 ${row.y + 30 + line.n * Math.min(17, 60 / row.lines.length)})`"
        >
          <line
            class="path"
            :class="`line-${line.n % 5}`"
            x1="6"
            :x2="6 + legend.line"
            y1="-4"
            y2="-4"
          />
          <text class="legend" :x="11 + legend.line">
            {{ cut(line.name, legend.letters) }}
          </text>
          <text class="value" :x="left - 8" text-anchor="end">
            {{ row.write(line.column[here] ?? 0) }}
          </text>
        </g>
      </g>
      <g v-if="starts.length">
        <text class="name" :x="left - 8" :y="rows.starts + 15" text-anchor="end">Starts</text>
        <g v-for="start in starts" :key="start.x" class="start" :class="{ failed: !start.started }">
          <line :x1="start.x" :x2="start.x" :y1="rows.starts" :y2="rows.starts + STRIP" />
          <text
            :x="start.x + (start.x > left + inner - 90 ? -6 : 6)"
            :y="rows.starts + 15"
            :text-anchor="start.x > left + inner - 90 ? 'end' : 'start'"
          >
            {{ start.words }}
          </text>
        </g>
      </g>
      <circle
        v-for="event in events"
        :key="`${event.at_s}${event.words}`"
        class="event"
        :class="event.kind"
        :cx="x(event.at_s)"
        :cy="AXIS + 1"
        r="4.5"
      >
        <title>{{ event.words }}</title>
      </circle>
      <g class="cursor">
        <line :x1="x(at)" :x2="x(at)" :y1="AXIS - 4" :y2="rows.height" />
        <circle :cx="x(at)" :cy="AXIS - 4" r="8" />
      </g>
    </svg>
  </div>
</template>

<style src="@/shared/charts/lines.css" scoped></style>
<style src="./axis.css" scoped></style>
<style src="./timeLine.css" scoped></style>
