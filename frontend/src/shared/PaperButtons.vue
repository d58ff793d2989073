<script setup lang="ts" generic="Paper extends string">
/** A PDF in one of several sizes of paper, the workshop's own first. */
import { computed } from "vue";

import { formats } from "./formats";
import PrintButton from "./PrintButton.vue";
import type { Print } from "./prints";

const props = defineProps<{
  words: string;
  papers: Paper[];
  ask: (paper: Paper) => Promise<Print>;
}>();
const WORDS: Record<string, string> = { letter: "Letter" };
const ordered = computed(() => {
  const own = props.papers.filter((paper) => paper === formats.value.paper);
  return [...own, ...props.papers.filter((paper) => paper !== formats.value.paper)];
});
const named = (paper: Paper, first: boolean) =>
  `${first ? `${props.words}, PDF ` : ""}${WORDS[paper] ?? paper}`;
</script>

<template>
  <PrintButton v-for="(paper, n) in ordered" :key="paper" :ask="() => ask(paper)">
    {{ named(paper, n === 0) }}
  </PrintButton>
</template>
