<script setup lang="ts">
/** The day in numbers: banks, loads, stages of the sources, and which banks were joined. */
import { computed } from "vue";

import { ampHours, hours, percent, volts } from "@/shared/units";

import { clock } from "./clock";
import { inOrder } from "@/shared/charts/curves";
import type { Sheet } from "./dayStore";

const props = defineProps<{ sheet: Sheet; names: Record<string, string> }>();
const STAGES = ["bulk", "absorption", "float"];

const report = computed(() => props.sheet.report);
const name = (id: string) => props.names[id] ?? id;
const at = (seconds: number) =>
  clock(props.sheet.plan.clock_h ?? 0, seconds, props.sheet.plan.hours ?? 24);
const feed = (item: string) => item.split(".")[0] ?? item;
const loads = computed(() => {
  const { worst_v, unmet } = report.value;
  const dead = Object.fromEntries(unmet.map((u) => [feed(u.item), undefined]));
  return inOrder<number | undefined>({ ...dead, ...worst_v }, props.names).map(([id, lowest]) => ({
    id,
    lowest,
    without: unmet.filter((u) => feed(u.item) === id),
  }));
});
const stages = computed(() =>
  inOrder(report.value.stage_h, props.names).map(([id, each]) => ({
    id,
    hours: STAGES.map((stage) => each[stage]),
  })),
);
</script>

<template>
  <section aria-label="The day in numbers" class="numbers">
    <h2>In numbers</h2>
    <table aria-label="Banks">
      <thead>
        <tr>
          <th>Bank</th>
          <th class="more">Begins</th>
          <th>Lowest</th>
          <th class="more">at</th>
          <th>At the end</th>
          <th>In</th>
          <th>Out</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="bank in report.banks" :key="bank.bank">
          <th>{{ name(bank.bank) }}</th>
          <td class="more">{{ percent(bank.begin_soc) }}</td>
          <td>
            <strong>{{ percent(bank.lowest_soc) }}</strong>
          </td>
          <td class="more">{{ at(bank.lowest_at_s) }}</td>
          <td>{{ percent(bank.end_soc) }}</td>
          <td>{{ ampHours(bank.in_ah) }}</td>
          <td>{{ ampHours(bank.out_ah) }}</td>
        </tr>
      </tbody>
    </table>
    <table v-if="loads.length" aria-label="Loads">
      <thead>
        <tr>
          <th>Load</th>
          <th>Lowest while on</th>
          <th class="words">Goes without</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="load in loads" :key="load.id">
          <th>{{ name(load.id) }}</th>
          <td>
            <strong>{{ volts(load.lowest) }}</strong>
          </td>
          <td class="words">
            <span v-for="one in load.without" :key="one.item" class="text-warning">
              ■ {{ one.name }} {{ hours(one.hours) }} of {{ hours(one.wanted_h) }}
            </span>
            <template v-if="!load.without.length">nothing</template>
          </td>
        </tr>
      </tbody>
    </table>
    <table v-if="stages.length" aria-label="Stages">
      <thead>
        <tr>
          <th>Source</th>
          <th v-for="stage in STAGES" :key="stage">{{ stage }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="source in stages" :key="source.id">
          <th>{{ name(source.id) }}</th>
          <td v-for="(value, n) in source.hours" :key="n">{{ hours(value) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-for="one in report.joined" :key="one.banks.join()">
      <strong>{{ one.banks.map(name).join(" and ") }}</strong> joined for {{ hours(one.hours) }} of
      {{ hours(report.hours) }}.
    </p>
  </section>
</template>

<style scoped>
.numbers {
  margin: 14px 0;
}
h2 {
  font-size: 1.1rem;
}
table {
  width: 100%;
  margin: 4px 0 12px;
  border-collapse: collapse;
  font-variant-numeric: tabular-nums;
}
th,
td {
  padding: 5px 8px;
  text-align: right;
  vertical-align: top;
}
td {
  white-space: nowrap;
}
th:first-child,
.words {
  text-align: left;
  white-space: normal;
}
thead th {
  font-size: 0.85rem;
}
tbody tr {
  border-top: 1px solid rgb(var(--v-theme-ink), 0.18);
}
@media (max-width: 599px) {
  .more {
    display: none;
  }
}
.words span {
  display: block;
  font-weight: 600;
}
</style>
