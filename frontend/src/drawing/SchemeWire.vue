<script setup lang="ts">
import { computed } from "vue";

import { amps as ampsText } from "@/shared/units";

import { flowOf, polyline, strokeWidth } from "./strokes";
import type { Wire } from "./types";

const props = defineProps<{
  wire: Wire;
  name: string;
  amps: number;
  live: boolean;
  side: "pos" | "neg";
  sense: boolean;
  picked: boolean;
}>();
defineEmits<{ pick: [] }>();

const flow = computed(() => flowOf(props.amps, props.live));
const width = computed(() => (props.sense ? 1.5 : strokeWidth(props.amps, flow.value)));
const line = computed(() => polyline(props.wire.points));
const label = computed(() => ampsText(Math.abs(props.amps)));
const words = computed(
  () => `${props.name}: ${flow.value === "dead" ? "no voltage" : label.value}`,
);
</script>

<template>
  <g
    class="wire"
    :class="[flow, side, { picked, sense }]"
    tabindex="0"
    role="button"
    :aria-label="`Cable ${words}`"
    :aria-pressed="picked"
    :data-cable="wire.id"
    @click="$emit('pick')"
    @keydown.enter.prevent="$emit('pick')"
    @keydown.space.prevent="$emit('pick')"
  >
    <title>{{ words }}</title>
    <polyline class="reach" :points="line" />
    <polyline class="halo" :points="line" :stroke-width="width + 5" />
    <polyline class="core" :points="line" :stroke-width="width" />
    <polyline
      v-if="flow === 'flowing' && !sense"
      class="run"
      :class="{ back: amps < 0 }"
      :points="line"
    />
  </g>
</template>

<style scoped>
polyline {
  fill: none;
  stroke-linejoin: round;
}
.reach {
  stroke: transparent;
  stroke-width: 18;
  pointer-events: stroke;
}
.wire {
  cursor: pointer;
  outline: none;
}
.halo {
  stroke: rgb(var(--v-theme-bay));
}
.core {
  stroke: rgb(var(--v-theme-wire));
  transition: stroke-width 0.15s;
}
.neg .core {
  stroke: rgb(var(--v-theme-negative));
}
.idle .core {
  stroke: rgb(var(--v-theme-wire-idle));
}
.neg.idle .core {
  stroke: rgb(var(--v-theme-negative));
  opacity: 0.55;
}
.dead .core {
  stroke: rgb(var(--v-theme-dead));
  stroke-dasharray: 5 5;
}
.sense .core {
  stroke-dasharray: 2 4;
}
.run {
  stroke: rgb(var(--v-theme-bay));
  stroke-width: 1.8;
  stroke-dasharray: 3 15;
  animation: run 1.1s linear infinite;
}
.run.back {
  animation-direction: reverse;
}
.picked .halo,
.wire:focus-visible .halo {
  stroke: rgb(var(--v-theme-secondary));
}
@keyframes run {
  to {
    stroke-dashoffset: -18;
  }
}
</style>
