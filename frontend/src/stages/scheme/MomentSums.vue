<script setup lang="ts">
import { computed } from "vue";

import { amps } from "@/shared/units";

import { useBench } from "./benchStore";

const bench = useBench();
const totals = computed(() => bench.result?.point.totals);
</script>

<template>
  <p v-if="totals" class="sums" aria-live="polite" aria-label="This moment">
    {{ amps(totals.given_a) }} in · {{ amps(totals.used_a) }} used ·
    <template v-if="Math.abs(totals.converted_a) >= 0.05">
      {{ amps(Math.abs(totals.converted_a)) }}
      {{ totals.converted_a > 0 ? "less" : "more" }} by dc-dc ·
    </template>
    <strong>
      {{ amps(Math.abs(totals.stored_a)) }}
      {{ totals.stored_a < 0 ? "out of banks" : "into banks" }}
    </strong>
  </p>
</template>

<style scoped>
.sums {
  font-size: 0.95rem;
  margin-left: auto;
  white-space: nowrap;
}
strong {
  font-size: 1.1rem;
}
</style>
