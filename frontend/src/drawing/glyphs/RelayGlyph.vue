<script setup lang="ts">
import { computed } from "vue";

import { volts } from "@/shared/units";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"relay">>();

const now = computed(() => props.point?.relays?.[props.part.id]);
const closed = computed(() => now.value?.closed ?? false);
const words = computed(() => (now.value ? now.value.verdict.toUpperCase() : ""));
const watches = computed(() => {
  const side = props.part.sensing ?? "dual";
  return side === "dual" ? "watches both" : `watches ${side}`;
});
const seen = computed(() => {
  const values = Object.values(now.value?.sees_open_v ?? {}).filter((v) => v !== null);
  return values.length ? `sees ${volts(Math.max(...values))}` : "sees nothing";
});
</script>

<template>
  <!-- A bridge that lifts: two leaves between two quays. -->
  <g>
    <title>{{ now?.why }}</title>
    <path class="quay" d="M16 0 V34 H4 V52 H38 M96 0 V34 H108 V52 H74" />
    <path
      class="leaf"
      :class="{ closed, chatters: now?.verdict === 'chatters' }"
      :d="closed ? 'M36 50 H76' : 'M37 51 L48 26 M75 51 L64 26'"
    />
    <text x="22" y="12" class="small">{{ box.mirrored ? "b" : "a" }}</text>
    <text x="90" y="12" class="small" text-anchor="end">{{ box.mirrored ? "a" : "b" }}</text>
    <text x="56" y="72" class="small" text-anchor="middle">{{ watches }}</text>
    <GlyphName :name="part.name" :x="116" :y="24" :width="80" />
    <text x="116" y="56" class="verdict" :class="now?.verdict">{{ words }}</text>
    <text x="116" y="72" class="small">{{ point ? seen : "" }}</text>
  </g>
</template>

<style scoped>
.quay,
.leaf {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 3;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.leaf {
  stroke-width: 6;
}
.leaf.closed {
  stroke: rgb(var(--v-theme-wire));
}
.leaf.chatters {
  stroke: rgb(var(--v-theme-error));
}
</style>
