<script setup lang="ts">
import { computed } from "vue";

import { ampHours, percent, signedAmps, volts } from "@/shared/units";

import type { GlyphProps } from "../types";

const props = defineProps<GlyphProps<"bank">>();

const LABELS = {
  flooded_start: "flooded",
  flooded_deep: "flooded deep",
  agm: "AGM",
  gel: "gel",
  tppl: "pure-lead AGM",
  lfp: "lithium iron",
};
const now = computed(() => props.point?.banks[props.part.id]);
const soc = computed(() => now.value?.soc ?? props.part.soc);
const surface = computed(() => 10 + (props.box.height - 20) * (1 - soc.value));
const way = computed(() => {
  const amps = now.value?.current_a ?? 0;
  if (Math.abs(amps) < 0.05) return "at rest";
  return amps > 0 ? "in" : "out";
});
const capacity = computed(() => {
  const { parallel = 1, series = 1, unit_ah } = props.part;
  const many = parallel * series > 1 ? `${parallel * series} × ` : "";
  return `${LABELS[props.part.chemistry]} ${many}${ampHours(unit_ah)}`;
});
</script>

<template>
  <g>
    <path
      class="water"
      :d="`M4 ${surface} q24 -6 48 0 t48 0 t48 0 t48 0 V${box.height - 12} q0 9 -9 9 H13 q-9 0 -9 -9 Z`"
    />
    <path
      class="basin"
      :d="`M3 0 V${box.height - 12} q0 10 10 10 H${box.width - 13} q10 0 10 -10 V0`"
    />
    <text v-if="now" class="volts" x="13" y="31">{{ volts(now.volts_v) }}</text>
    <text v-if="now" class="amps" :class="way" :x="box.width - 12" y="31" text-anchor="end">
      {{ signedAmps(now.current_a) }}
      <tspan class="way">{{ way }}</tspan>
    </text>
    <text class="line strong" x="13" y="53">{{ percent(soc) }} full</text>
    <text class="line" x="13" y="72">{{ capacity }}</text>
  </g>
</template>

<style scoped>
.water {
  fill: rgb(var(--v-theme-water));
}
.basin {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 3.5;
  stroke-linecap: round;
}
.volts {
  font-size: 21px;
  font-weight: 750;
}
.amps {
  font-size: 16px;
  font-weight: 700;
}
.amps.in {
  fill: rgb(var(--v-theme-success));
}
.way {
  font-size: 12px;
  font-weight: 500;
}
</style>
