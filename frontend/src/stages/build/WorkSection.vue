<script setup lang="ts">
import { computed } from "vue";

import type { Build } from "./useBuild";

const props = defineProps<{ build: Build; jobId: string; variantId: string }>();

const FATES = [
  { fate: "out", name: "Taken out", mark: "−" },
  { fate: "new", name: "New", mark: "+" },
  { fate: "again", name: "Used again", mark: "↻" },
  { fate: "set", name: "Set otherwise", mark: "≈" },
  { fate: "stays", name: "Stays as it is", mark: "=" },
] as const;
const groups = computed(() =>
  FATES.map((one) => ({
    ...one,
    parts: props.build.book.work.parts.filter((part) => part.fate === one.fate),
    cables: props.build.book.work.cables.filter((cable) => cable.fate === one.fate),
  })).filter((one) => one.parts.length + one.cables.length),
);
</script>

<template>
  <section aria-label="Work" class="block">
    <div class="card-head">
      <p>What makes {{ build.against ?? "nothing" }} into this variant.</p>
      <v-btn
        v-if="build.against"
        size="small"
        :to="{ name: 'compare', params: { jobId, variantId } }"
      >
        See it on the drawing
      </v-btn>
    </div>
    <details v-for="group in groups" :key="group.fate" class="card" :open="group.fate !== 'stays'">
      <summary>
        {{ group.mark }} {{ group.name }}: {{ group.parts.length }} parts,
        {{ group.cables.length }} cables
      </summary>
      <ul>
        <li v-for="part in group.parts" :key="part.key">
          <strong>{{ part.name }}</strong> <small>{{ part.words }}</small>
        </li>
        <li v-for="cable in group.cables" :key="cable.key">
          {{ cable.name }}, {{ cable.gauge }}, {{ cable.length_m.toFixed(2) }} m
          <small v-if="cable.moved.length" class="text-info"
            >new lug at the {{ cable.moved.join(" and ") }}</small
          >
          <small>{{ cable.words }}</small>
        </li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
summary {
  font-size: 1.15rem;
}
ul {
  columns: 380px;
  padding-left: 18px;
}
li {
  break-inside: avoid;
  margin-bottom: 3px;
}
</style>
