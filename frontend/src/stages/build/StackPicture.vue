<script setup lang="ts">
/** Lugs on a stud as they lie: the seat at the bottom, the nut on top. */
import type { Schemas } from "@/api/client";

const props = defineProps<{ stack: Schemas["Stack"] }>();
const up = () => [...props.stack.lugs].reverse();
</script>

<template>
  <figure class="stack">
    <figcaption>
      <strong>{{ stack.post }}</strong>
      {{ stack.stud }}<template v-if="stack.torque">, {{ stack.torque }}</template>
    </figcaption>
    <div class="nut">nut, lock washer</div>
    <div v-for="lug in up()" :key="lug" class="lug">{{ lug }}</div>
    <div class="seat">seat</div>
  </figure>
</template>

<style scoped>
.stack {
  margin: 0;
  min-width: 190px;
  border: 1px solid rgb(var(--v-theme-ink), 0.35);
  border-radius: 10px;
  padding: 8px 10px;
  background: rgb(var(--v-theme-surface));
}
.nut,
.lug,
.seat {
  margin: 3px auto;
  text-align: center;
  border-radius: 4px;
  padding: 2px 8px;
}
.nut {
  width: 60%;
  border: 1.5px dashed rgb(var(--v-theme-ink), 0.5);
  font-size: 0.84rem;
}
.lug {
  border: 2px solid rgb(var(--v-theme-ink), 0.75);
  font-weight: 700;
}
.seat {
  background: rgb(var(--v-theme-ink), 0.8);
  color: rgb(var(--v-theme-surface));
}
</style>
