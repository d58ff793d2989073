<script setup lang="ts">
import { mdiFitToScreenOutline, mdiMinus, mdiPlus } from "@mdi/js";
import { computed, ref, watch } from "vue";

import { volts } from "@/shared/units";

import { GLYPHS } from "./glyphs";
import SchemeWire from "./SchemeWire.vue";
import type { Design, Layout, Point } from "./types";
import { useZoom } from "./useZoom";

const props = defineProps<{
  design: Design;
  layout: Layout;
  point: Point | null;
  positionOf: (id: string) => string;
  cableNames: Record<string, string>;
  postNames: Record<string, string>;
  picked: string | null;
  landing: string[] | null;
  /** Parts and cables that differ from another variant's. */
  marked?: Record<string, "gone" | "new" | "changed">;
  /** A path that is followed: what lies on it, and the piece at hand. All else stands back. */
  followed?: { ids: Set<string>; at: string } | null;
}>();
const emit = defineEmits<{ cable: [id: string]; part: [id: string]; post: [ref: string] }>();

const SIGNS = { gone: "−", new: "+", changed: "≠" };
const LABEL_WIDTH = 50;
const LABEL_HEIGHT = 17;

const frame = ref<SVGSVGElement | null>(null);
defineExpose({ frame });
const { viewBox, zoomed, by, toward, whole, down, move, up, dragged } = useZoom(
  computed(() => ({ width: props.layout.width, height: props.layout.height })),
  frame,
);
watch(
  () => [props.followed?.at, props.layout] as const,
  ([at]) => {
    const box = props.layout.boxes.find((one) => one.id === at);
    const wire = props.layout.wires.find((one) => one.id === at);
    if (box) toward({ x: box.x + box.width / 2, y: box.y + box.height / 2 });
    else if (wire) toward({ x: wire.label_x, y: wire.label_y });
  },
);
const isPicked = (id: string) => id === props.picked || id === props.followed?.at;
const faded = (id: string) => props.followed != null && !props.followed.ids.has(id);
const parts = computed(() => new Map(props.design.components.map((part) => [part.id, part])));
const cables = computed(() => new Map(props.design.cables.map((cable) => [cable.id, cable])));
const wires = computed(() =>
  props.layout.wires.map((wire) => {
    const cable = cables.value.get(wire.id);
    const amps = props.point?.conductor_a[wire.id] ?? 0;
    // Without a moment nothing is known to be dead.
    const known = props.point?.post_v[cable?.start ?? ""] != null;
    const live = cable !== undefined && (props.point === null || known);
    const sense = cable?.purpose === "sense";
    return { wire, amps, live, sense, name: props.cableNames[wire.id] ?? wire.id };
  }),
);
const marks = computed(() =>
  props.layout.boxes.flatMap((box) =>
    box.posts.map((mark) => ({ ...mark, lands: landsOn(mark.ref, box.id) })),
  ),
);

/** The post that picking this mark lands on; a bus bar's mark stands for its free stud. */
function landsOn(mark: string, part: string): string | null {
  if (!props.landing) return null;
  const bar = mark.endsWith(".bar");
  return props.landing.find((ref) => ref === mark || (bar && ref.startsWith(`${part}.`))) ?? null;
}

function choose(what: () => void) {
  if (!dragged()) what();
}

function bayName(bank: string): string {
  return parts.value.get(bank)?.name ?? bank;
}

function markWords(ref: string): string {
  return `${props.postNames[ref] ?? parts.value.get(ref.split(".")[0] ?? "")?.name ?? ref}`;
}
</script>

<template>
  <div class="drawing">
    <svg
      ref="frame"
      :viewBox="viewBox"
      preserveAspectRatio="xMidYMin meet"
      role="group"
      aria-label="Scheme drawing"
      :class="{ landing: landing !== null, zoomed }"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="up"
      @pointerleave="up"
      @wheel.ctrl.prevent="by($event.deltaY < 0 ? 1.15 : 0.87)"
    >
      <g v-for="bay in layout.bays" :key="bay.bank">
        <rect
          class="bay"
          :x="bay.x + 3"
          y="4"
          :width="bay.width - 6"
          :height="layout.height - 8"
          rx="14"
        />
        <text
          :id="`name-${bay.bank}`"
          class="bay-name"
          :x="bay.x + bay.width / 2"
          y="26"
          text-anchor="middle"
        >
          {{ bayName(bay.bank) }}
        </text>
      </g>
      <SchemeWire
        v-for="w in wires"
        :key="w.wire.id"
        :wire="w.wire"
        :name="w.name"
        :amps="w.amps"
        :live="w.live"
        :sense="w.sense"
        :side="layout.side"
        :picked="isPicked(w.wire.id)"
        :class="[marked?.[w.wire.id] && `marked ${marked[w.wire.id]}`, { faded: faded(w.wire.id) }]"
        @pick="choose(() => emit('cable', w.wire.id))"
      />
      <g
        v-for="box in layout.boxes"
        :key="box.id"
        class="part"
        :class="{ picked: isPicked(box.id), faded: faded(box.id) }"
        :transform="`translate(${box.x} ${box.y})`"
        :data-part="box.id"
      >
        <component
          :is="GLYPHS[parts.get(box.id)?.kind ?? 'fuse']"
          v-if="parts.has(box.id)"
          :part="parts.get(box.id)"
          :box="box"
          :point="point"
          :position="positionOf(box.id)"
        />
        <g v-if="marked?.[box.id]" class="difference" :class="marked[box.id]">
          <rect x="-3" y="-3" :width="box.width + 6" :height="box.height + 6" rx="11" />
          <circle :cx="box.width - 4" cy="2" r="10" />
          <text :x="box.width - 4" y="7" text-anchor="middle">{{ SIGNS[marked[box.id]!] }}</text>
        </g>
        <rect
          class="touch"
          :width="box.width"
          :height="box.height"
          rx="9"
          tabindex="0"
          role="button"
          :aria-label="parts.get(box.id)?.name"
          @click="choose(() => emit('part', box.id))"
          @keydown.enter.prevent="emit('part', box.id)"
          @keydown.space.prevent="emit('part', box.id)"
        />
      </g>
      <g
        v-for="w in wires"
        :key="w.wire.id"
        class="label"
        :class="{ faded: faded(w.wire.id) }"
        aria-hidden="true"
      >
        <template v-if="!w.sense && w.live && Math.abs(w.amps) >= 0.05">
          <rect
            :x="w.wire.label_x - LABEL_WIDTH / 2"
            :y="w.wire.label_y - LABEL_HEIGHT / 2"
            :width="LABEL_WIDTH"
            :height="LABEL_HEIGHT"
            rx="8.500"
          />
          <text :x="w.wire.label_x" :y="w.wire.label_y + 4.5" text-anchor="middle">
            {{ Math.abs(w.amps).toFixed(Math.abs(w.amps) < 100 ? 1 : 0) }} A
          </text>
        </template>
      </g>
      <g v-for="mark in marks" :key="mark.ref + mark.edge" class="post">
        <title>{{ markWords(mark.ref) }} {{ volts(point?.post_v[mark.ref]) }}</title>
        <rect
          class="stud"
          :x="mark.x - mark.width / 2 - 5"
          :y="mark.y - 4.5"
          :width="mark.width + 10"
          height="9"
          rx="4.500"
        />
        <g
          v-if="mark.lands"
          class="target"
          tabindex="0"
          role="button"
          :aria-label="`Land on ${markWords(mark.lands)}`"
          :data-post="mark.lands"
          @click.stop="emit('post', mark.lands)"
          @keydown.enter.prevent="emit('post', mark.lands)"
          @keydown.space.prevent="emit('post', mark.lands)"
        >
          <circle :cx="mark.x" :cy="mark.y" r="20" class="touch" />
          <circle :cx="mark.x" :cy="mark.y" r="11" class="ring" />
        </g>
      </g>
    </svg>
    <div class="zoom">
      <v-btn class="step" :icon="mdiPlus" size="small" aria-label="Closer" @click="by(1.4)" />
      <v-btn class="step" :icon="mdiMinus" size="small" aria-label="Further" @click="by(1 / 1.4)" />
      <v-btn :icon="mdiFitToScreenOutline" size="small" aria-label="Whole drawing" @click="whole" />
    </div>
  </div>
</template>

<style src="./glyphs/glyphs.css"></style>

<style scoped>
.drawing {
  position: relative;
  min-height: 0;
  height: 100%;
}
svg {
  width: 100%;
  height: 100%;
  display: block;
  user-select: none;
}
.zoomed {
  touch-action: none;
  cursor: grab;
}
.bay {
  fill: rgb(var(--v-theme-bay));
  stroke: rgb(var(--v-theme-ink), 0.22);
}
.bay-name {
  font-size: 15px;
  font-weight: 700;
  fill: rgb(var(--v-theme-on-background));
}
.touch {
  fill: transparent;
  cursor: pointer;
  outline: none;
}
.touch:focus-visible,
.part.picked > .touch {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 5;
}
.difference rect {
  fill: none;
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 3;
}
.difference.gone rect {
  stroke-dasharray: 7 5;
}
.difference circle {
  fill: rgb(var(--v-theme-secondary));
}
.difference text {
  font-size: 15px;
  font-weight: 800;
  fill: rgb(var(--v-theme-on-secondary));
}
.marked :deep(.halo) {
  stroke: rgb(var(--v-theme-secondary), 0.55);
}
.label {
  pointer-events: none;
}
.label rect {
  fill: rgb(var(--v-theme-surface));
  stroke: rgb(var(--v-theme-ink), 0.45);
}
.label text {
  font-size: 12.5px;
  font-weight: 700;
  fill: rgb(var(--v-theme-on-surface));
}
.stud {
  fill: rgb(var(--v-theme-ink));
}
.target {
  cursor: pointer;
  outline: none;
}
.ring {
  fill: rgb(var(--v-theme-surface));
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 4;
}
.target:hover .ring,
.target:focus-visible .ring {
  fill: rgb(var(--v-theme-secondary));
}
.faded {
  opacity: 0.22;
}
.landing .wire:not(.picked),
.landing .part {
  opacity: 0.45;
}
.zoom {
  position: absolute;
  right: 4px;
  bottom: 2px;
  display: flex;
  gap: 4px;
}
@media (max-width: 959px) {
  .step {
    display: none;
  }
  .zoom {
    inset: 0 0 auto auto;
  }
}
</style>
