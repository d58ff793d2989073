<script setup lang="ts">
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import SchemeDrawing from "@/drawing/SchemeDrawing.vue";

const props = defineProps<{
  scheme: Schemas["SchemeOut"];
  marked: Record<string, string>;
  point: Schemas["OperatingPoint"] | null;
}>();
const positions = computed(() => new Map(props.scheme.switches.map((s) => [s.id, s.position])));
const marks = computed(() => props.marked as Record<string, "gone" | "new" | "changed">);
</script>

<template>
  <figure>
    <figcaption>{{ scheme.name }}</figcaption>
    <div class="picture">
      <SchemeDrawing
        :design="scheme.design"
        :layout="scheme.positive"
        :point="point"
        :position-of="(id) => positions.get(id) ?? 'off'"
        :cable-names="scheme.cable_names"
        :post-names="scheme.post_names"
        :picked="null"
        :landing="null"
        :marked="marks"
      />
    </div>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
figcaption {
  font-weight: 700;
  font-size: 1.1rem;
}
.picture {
  height: 430px;
  border: 1px solid rgb(var(--v-theme-ink), 0.25);
  border-radius: 12px;
}
</style>
