<script setup lang="ts">
/** The day in a headline and a few sentences, the gravest first. */
import { computed } from "vue";

import type { Sheet } from "./dayStore";
import { DAYS, RANKS, TONES } from "./ranks";

const props = defineProps<{ sheet: Sheet }>();
const ORDER = ["bad", "caution", "good"];
const rank = computed(() => RANKS[props.sheet.report.rank]);
const sentences = computed(() =>
  [...props.sheet.report.verdict].sort((a, b) => ORDER.indexOf(a.tone) - ORDER.indexOf(b.tone)),
);
</script>

<template>
  <section class="verdict" :class="rank.color" aria-label="Verdict">
    <h2 :class="`text-${rank.color}`">{{ rank.mark }} {{ DAYS[sheet.report.rank] }}</h2>
    <ul>
      <li v-for="line in sentences" :key="line.words">
        <span :class="`text-${TONES[line.tone].color}`" class="mark">{{
          TONES[line.tone].mark
        }}</span>
        <span>
          {{ line.words }}
          <em v-if="line.fix">{{ line.fix }}</em>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.verdict {
  border-left: 6px solid rgb(var(--v-theme-success));
  border-radius: 4px 12px 12px 4px;
  padding: 8px 14px;
  background: rgb(var(--v-theme-surface));
}
.verdict.error {
  border-color: rgb(var(--v-theme-error));
}
.verdict.warning {
  border-color: rgb(var(--v-theme-warning));
}
h2 {
  font-size: 1.35rem;
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0 0;
  columns: 2 360px;
  column-gap: 26px;
}
li {
  display: flex;
  gap: 8px;
  break-inside: avoid;
  margin-bottom: 3px;
}
.mark {
  font-weight: 800;
}
li > span:last-child {
  font-weight: 500;
}
em {
  font-weight: 400;
  font-style: normal;
  display: block;
  font-size: 0.88rem;
  opacity: 0.9;
}
</style>
