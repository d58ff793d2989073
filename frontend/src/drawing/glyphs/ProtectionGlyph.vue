<script setup lang="ts">
import { computed } from "vue";

import type { GlyphProps } from "../types";
import GlyphName from "./GlyphName.vue";

const props = defineProps<GlyphProps<"protection">>();

const now = computed(() => props.point?.contacts?.[props.part.id]);
const open = computed(() => now.value !== undefined && now.value.verdict !== "closed");
</script>

<template>
  <!-- A harbour gate that shuts the basin off. -->
  <g>
    <title>{{ now?.why }}</title>
    <path class="post" :d="`M20 0 V12 M20 ${box.height - 12} V${box.height}`" />
    <path
      class="gate"
      :class="{ open }"
      :d="open ? 'M10 12 H30 M10 48 H30' : 'M20 12 V48 M12 18 H28 V42 H12 Z'"
    />
    <GlyphName :name="part.name" :x="42" :y="18" :width="88" />
    <text x="42" y="46" class="state" :class="{ open }">
      {{ open ? "OPEN" : "CLOSED" }}
    </text>
  </g>
</template>

<style scoped>
.post,
.gate {
  fill: none;
  stroke: rgb(var(--v-theme-ink));
  stroke-width: 3;
}
.gate {
  stroke-width: 4;
  fill: rgb(var(--v-theme-surface));
}
.gate.open {
  stroke: rgb(var(--v-theme-error));
}
.state {
  font-size: 13px;
  font-weight: 800;
}
.state.open {
  fill: rgb(var(--v-theme-error));
}
</style>
