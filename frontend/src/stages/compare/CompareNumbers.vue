<script setup lang="ts">
/** The measures of two schemes, row by row. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { amps, percent, volts } from "@/shared/units";

type Measures = Schemas["Measures"];
type Costs = Schemas["Costs"];
const props = defineProps<{ names: string[]; sides: Measures[]; costs: (Costs | null)[] }>();

const ROWS: { words: string; of: (m: Measures) => string }[] = [
  { words: "Source and bank pairs with a charging path", of: (m) => percent(m.coverage) },
  { words: "Alternator into the house bank, cruising", of: (m) => amps(m.house_a) },
  { words: "Alternator into engine banks, cruising", of: (m) => amps(m.engine_a) },
  {
    words: "Regulator believes the house bank higher by",
    of: (m) => (m.error_v == null ? "–" : volts(m.error_v)),
  },
  { words: "Positions at rest that drain an engine bank", of: (m) => percent(m.draining) },
  { words: "Switches that can cut the running alternator off", of: (m) => String(m.cutting) },
  { words: "Start from a second bank", of: (m) => (m.spare_start ? "yes" : "no") },
  { words: "Unlike banks can be joined", of: (m) => (m.unlike_joined ? "yes" : "no") },
  { words: "Relays that chatter", of: (m) => String(m.chattering.length) },
  { words: "Pieces of gear", of: (m) => String(m.gear) },
  { words: "Cables", of: (m) => String(m.cables) },
  { words: "Copper", of: (m) => `${m.copper_kg.toFixed(1)} kg` },
];
const money = (cost: Costs, value: number | null) =>
  value === null ? "no price kept" : `${cost.currency} ${value.toFixed(0)}`;
const gear = (c: Costs) => {
  if (c.gear === null) return "no price kept";
  return `${money(c, c.gear)}${c.unpriced ? `, ${c.unpriced} lines without a price` : ""}`;
};
const COSTS: { words: string; of: (c: Costs) => string }[] = [
  { words: "Gear and cable to build it", of: gear },
  {
    words: "Hours of work, and what they cost",
    of: (c) => `${(c.minutes / 60).toFixed(1)} h, ${money(c, c.work)}`,
  },
  { words: "Gear and work", of: (c) => money(c, c.total) },
];
const rows = computed(() =>
  [
    ...ROWS.map((row) => ({ words: row.words, cells: props.sides.map(row.of) })),
    ...COSTS.map((row) => ({
      words: row.words,
      cells: props.costs.map((cost) => (cost ? row.of(cost) : "as it is")),
    })),
  ].map((row) => ({ ...row, differs: row.cells[0] !== row.cells[1] })),
);
</script>

<template>
  <table>
    <thead>
      <tr>
        <th scope="col">Computed on this boat</th>
        <th v-for="name in names" :key="name" scope="col">{{ name }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.words" :class="{ differs: row.differs }">
        <th scope="row">{{ row.words }}</th>
        <td v-for="(cell, n) in row.cells" :key="n">{{ cell }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  margin: 12px 0;
}
th,
td {
  text-align: left;
  padding: 5px 8px;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.2);
}
td {
  font-variant-numeric: tabular-nums;
}
tbody th {
  font-weight: 500;
}
.differs td {
  font-weight: 800;
}
</style>
