<script setup lang="ts">
/** How a variant stands, in one line: what a surveyor would say first. */
import type { Schemas } from "@/api/client";

defineProps<{ standing: Schemas["Standing"] }>();
const MARKS = {
  fails: { mark: "▲", color: "error" },
  not_yet: { mark: "◆", color: "warning" },
  passes: { mark: "✓", color: "success" },
};
</script>

<template>
  <p class="standing" role="status">
    <span aria-hidden="true" :class="`text-${MARKS[standing.verdict].color}`">
      {{ MARKS[standing.verdict].mark }}
    </span>
    {{ standing.words }}
  </p>
</template>

<style scoped>
.standing {
  margin: 4px 0 8px;
  font-size: 1.12rem;
  font-weight: 700;
}
</style>
