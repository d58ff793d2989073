<script setup lang="ts">
/** Photographs of a part, a cable or a run: asked for only when somebody opens them. */
import { ref } from "vue";

import PhotosOf from "./PhotosOf.vue";

defineProps<{ target: string; words: string; what: "part" | "cable" | "run" }>();
const open = ref(false);
</script>

<template>
  <details @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>Photographs of this {{ what }}</summary>
    <PhotosOf v-if="open" :key="target" :target="target" :words="words" :what="what" />
  </details>
</template>

<style scoped>
summary {
  display: flex;
  align-items: center;
  min-height: 48px;
  font-weight: 700;
  cursor: pointer;
}
</style>
