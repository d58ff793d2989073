<script setup lang="ts">
/** Why a pattern stands where it does: for and against, and what it comes to. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";

const props = defineProps<{ advice: Schemas["PatternAdvice"] }>();
const sides = computed(() => [
  { title: "For it", mark: "✓", rows: props.advice.reasons.filter((r) => r.marks > 0) },
  { title: "Against it", mark: "▾", rows: props.advice.reasons.filter((r) => r.marks < 0) },
]);
</script>

<template>
  <div class="sides">
    <div v-for="side in sides" :key="side.title">
      <h3>{{ side.title }}</h3>
      <ul>
        <li v-for="row in side.rows" :key="row.words">
          <span aria-hidden="true">{{ side.mark }}</span> {{ row.words }}
        </li>
        <li v-if="!side.rows.length">nothing that weighs</li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: 6px 20px;
}
h3 {
  font-size: 1rem;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  padding: 2px 0;
}
</style>
