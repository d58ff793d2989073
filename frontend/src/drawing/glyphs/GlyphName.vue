<script setup lang="ts">
import { computed } from "vue";

const props = defineProps<{ name: string; x: number; y: number; width: number; lines?: number }>();

const CHARACTER = 6.7; // mean width of a letter at 13 px

/** The name on at most two lines that fit the room. */
const rows = computed(() => {
  const room = Math.floor(props.width / CHARACTER);
  const found: string[] = [];
  for (const word of props.name.split(" ")) {
    const last = found[found.length - 1];
    if (last !== undefined && `${last} ${word}`.length <= room) {
      found[found.length - 1] = `${last} ${word}`;
    } else {
      found.push(word);
    }
  }
  const most = props.lines ?? 2;
  if (found.length > most) found.splice(most - 1, found.length, found.slice(most - 1).join(" "));
  return found.map((row) => (row.length > room ? `${row.slice(0, room - 1)}…` : row));
});
</script>

<template>
  <text class="name" :x="x" :y="y - (rows.length - 1) * 7">
    <tspan v-for="(row, n) in rows" :key="row" :x="x" :dy="n ? 15 : 0">{{ row }}</tspan>
    <title>{{ name }}</title>
  </text>
</template>
