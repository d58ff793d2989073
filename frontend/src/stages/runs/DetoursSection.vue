<script setup lang="ts">
/** Each circuit as it is run, run directly, and with a remote switch: drop, copper, cost. */
import type { Schemas } from "@/api/client";
import { copper, finePercent, length, lostVolts } from "@/shared/units";

defineProps<{ detours: Schemas["Detour"][]; currency: string }>();

const WAYS: Record<string, string> = {
  as_run: "As it is run",
  direct: "Run directly",
  remote_switch: "Remote switch",
};
</script>

<template>
  <p class="why">
    A switch within reach and a short cable pull against each other. Here is what the way round
    costs, with the thinnest direct cable in stock that keeps the limit.
  </p>
  <article v-for="one in detours" :key="one.path">
    <h2>
      {{ one.name }} <small>{{ one.from_place }} to {{ one.to_place }}</small>
    </h2>
    <p v-if="one.missing" class="text-info">? Find out: {{ one.missing }}.</p>
    <div class="scroll">
      <table :aria-label="one.name">
        <thead>
          <tr>
            <th scope="col">Way</th>
            <th scope="col">Cable</th>
            <th scope="col">Size</th>
            <th scope="col">Lost</th>
            <th scope="col">Copper</th>
            <th scope="col">Price</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="way in one.ways" :key="way.kind">
            <th scope="row">
              {{ WAYS[way.kind] }}
              <small>{{ way.words }}</small>
            </th>
            <td>{{ length(way.length_m) }}</td>
            <td>{{ way.gauge }}</td>
            <td>
              <strong>{{ lostVolts(way.drop_v) }}</strong> {{ finePercent(way.drop_percent) }}
            </td>
            <td>{{ copper(way.copper_kg) }}</td>
            <td>
              {{ way.price == null ? "no price in stock" : `${way.price.toFixed(0)} ${currency}` }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </article>
</template>

<style scoped>
.why {
  max-width: 760px;
}
article {
  max-width: 980px;
  margin-top: 12px;
}
h2 {
  font-size: 1.08rem;
}
small {
  font-weight: 400;
  font-size: 0.84rem;
}
th small {
  display: block;
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  min-width: 640px;
  background: rgb(var(--v-theme-surface));
}
th,
td {
  text-align: left;
  padding: 5px 10px;
  border: 1px solid rgb(var(--v-theme-ink), 0.2);
}
td {
  white-space: nowrap;
}
</style>
