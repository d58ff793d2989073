<script setup lang="ts">
/** Findings that the second variant is rid of, and those that it brings. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { SEVERITIES } from "@/shared/severity";

const props = defineProps<{ comparison: Schemas["SchemeComparison"] }>();
const sides = computed(() => [
  { title: "Findings lost", rows: props.comparison.lost },
  { title: "Findings gained", rows: props.comparison.gained },
]);
</script>

<template>
  <div class="sides">
    <section v-for="side in sides" :key="side.title" :aria-label="side.title">
      <h2>{{ side.title }} ({{ side.rows.length }})</h2>
      <ul>
        <li v-for="f in side.rows" :key="f.rule + f.title">
          <strong :class="`text-${SEVERITIES[f.severity].color}`">
            {{ SEVERITIES[f.severity].mark }} {{ SEVERITIES[f.severity].word }}
          </strong>
          {{ f.rule }}: {{ f.title }}
        </li>
        <li v-if="!side.rows.length">none</li>
      </ul>
    </section>
  </div>
  <h2>What differs ({{ comparison.differences.length }})</h2>
  <ul class="differences">
    <li v-for="d in comparison.differences" :key="d.what + d.how + d.id">
      <strong>{{ { gone: "−", new: "+", changed: "≠" }[d.how] }}</strong> {{ d.words }}
    </li>
  </ul>
  <p>{{ comparison.kept }} findings are in both.</p>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 8px 20px;
}
h2 {
  font-size: 1.1rem;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  padding: 2px 0;
}
.differences {
  columns: 2 320px;
  font-size: 0.9rem;
}
</style>
