<script setup lang="ts">
import { computed, ref } from "vue";

import PrintButton from "@/shared/PrintButton.vue";

import type { Build, useBuild } from "./useBuild";

const props = defineProps<{
  build: Build;
  variantId: string;
  pack: ReturnType<typeof useBuild>["pack"];
}>();
const columns = ref(4);
const rows = ref(13);
const sheet = () =>
  props.pack({ sheet: "labels", columns: Number(columns.value), rows: Number(rows.value) });

const SORTS = {
  cable: "Both ends of cables",
  device: "Fuses and breakers",
  switch: "Switches, with their positions",
  bank: "Batteries",
  live: "Always live",
  part: "Gear",
} as const;
const groups = computed(() =>
  Object.entries(SORTS)
    .map(([sort, name]) => ({
      name,
      labels: props.build.book.labels.filter((label) => label.sort === sort),
    }))
    .filter((group) => group.labels.length),
);
const file = (name: string) => `/api/variants/${props.variantId}/build/${name}`;
</script>

<template>
  <section aria-label="Labels" class="block">
    <div class="card-head">
      <p>{{ build.book.labels.length }} labels, in the boat's own words.</p>
      <div class="tools">
        <label>
          Sheet of <input v-model="columns" type="number" min="1" max="8" aria-label="Columns" /> ×
          <input v-model="rows" type="number" min="1" max="30" aria-label="Rows" />
          a page
        </label>
        <PrintButton :ask="sheet">Sheet, PDF</PrintButton>
        <v-btn size="small" :href="file('labels.csv')" download>Label printer, CSV</v-btn>
      </div>
    </div>
    <template v-for="group in groups" :key="group.name">
      <h2>{{ group.name }}: {{ group.labels.length }}</h2>
      <ul class="labels">
        <li v-for="label in group.labels" :key="label.key">
          <strong>{{ label.large }}</strong>
          <small>{{ label.small }}</small>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.tools input {
  width: 56px;
  min-height: 36px;
  border: 1px solid rgb(var(--v-theme-ink), 0.4);
  border-radius: 6px;
  padding: 2px 6px;
  color: inherit;
}
.labels {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 8px;
}
.labels li {
  border: 1.5px solid rgb(var(--v-theme-ink), 0.55);
  border-radius: 6px;
  padding: 4px 8px;
  background: rgb(var(--v-theme-surface));
}
.labels strong {
  display: block;
  font-size: 1.15rem;
}
.labels small {
  display: block;
}
</style>
