<script setup lang="ts">
/** A day of a profile: hour by hour, the share of each load, what stands, what peaks. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import TimeChart from "@/shared/charts/TimeChart.vue";
import { ampHours, amps, fineAmpHours, hours, percent, wattHours } from "@/shared/units";

const props = defineProps<{ report: Schemas["LoadReport"]; day: Schemas["ProfileDay"] }>();
const lines = computed(() =>
  props.report.audit.profiles.map((day) => ({
    name: day.name,
    strong: day.profile === props.day.profile,
    points: [...day.hourly_a, day.hourly_a.at(-1) ?? 0].map((a, h): [number, number] => [h, a]),
  })),
);
const standing = computed(() => props.day.items.filter((row) => row.standing));
const clock = (hour: number) => `${String(hour).padStart(2, "0")}:00`;
</script>

<template>
  <section :aria-label="`A day: ${day.name}`" class="block">
    <TimeChart
      :lines="lines"
      x-unit=":00"
      y-unit="A"
      :x-max="24"
      step
      label="Mean amps in each hour of the day, by profile"
    />
    <p class="peak">
      Busiest hour {{ clock(day.busiest_hour) }}: <strong>{{ amps(day.busiest_a) }}</strong> mean.
      Everything at once: <strong>{{ amps(day.all_on_a) }}</strong>.
      {{ percent(day.assumed_share) }} of the day is assumed, not measured.
    </p>
    <div class="two">
      <div>
        <h2>Share of each load, {{ day.name.toLowerCase() }}</h2>
        <table class="plain">
          <thead>
            <tr>
              <th>Load</th>
              <th>On</th>
              <th>Draw</th>
              <th>A day</th>
              <th>Energy</th>
              <th>Share</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in day.items" :key="row.item">
              <th scope="row">
                {{ row.name }}
                <span class="bar" :style="{ width: `${100 * row.share}%` }"></span>
              </th>
              <td>{{ hours(row.hours_h) }}</td>
              <td>{{ amps(row.running_a) }}</td>
              <td>
                <strong>{{ fineAmpHours(row.charge_ah) }}</strong>
              </td>
              <td>{{ wattHours(row.energy_wh) }}</td>
              <td>{{ percent(row.share) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div>
        <h2>Hour by hour</h2>
        <details>
          <summary>As a table</summary>
          <table class="plain">
            <tbody>
              <tr v-for="(a, hour) in day.hourly_a" :key="hour">
                <th scope="row">{{ clock(hour) }}</th>
                <td>{{ amps(a) }}</td>
              </tr>
            </tbody>
          </table>
        </details>
        <h2>Standing draws</h2>
        <p v-if="!standing.length">None listed.</p>
        <ul>
          <li v-for="row in standing" :key="row.item">
            {{ row.name }}: {{ fineAmpHours(row.charge_ah) }} a day,
            <strong>{{ ampHours(row.week_ah) }} a week</strong>
          </li>
        </ul>
        <h2>On the engine bank at rest</h2>
        <p v-if="!report.on_engine_bank.length" class="text-success">✓ Nothing.</p>
        <template v-else>
          <p class="text-warning">
            <strong>◆ As the switches are drawn the engine bank feeds these too:</strong>
          </p>
          <ul>
            <li v-for="row in report.on_engine_bank" :key="row.item + row.bank">
              {{ row.name }} ({{ row.feed }}, {{ row.bank }}): {{ fineAmpHours(row.charge_ah) }} a
              day
            </li>
          </ul>
        </template>
        <template v-if="report.not_wired.length">
          <h2>Not wired in this variant</h2>
          <p>{{ report.not_wired.join(", ") }}: pick a feed in the sheet of each.</p>
        </template>
      </div>
    </div>
    <p class="source">Amp-hours {{ report.stated.words }}. {{ report.audit.source }}</p>
  </section>
</template>

<style scoped>
.peak {
  margin: 6px 0 10px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(220px, 1fr);
  gap: 24px;
}
.bar {
  display: block;
  height: 6px;
  min-width: 2px;
  border-radius: 3px;
  background: rgb(var(--v-theme-secondary));
}
ul {
  padding-left: 18px;
}
@media (max-width: 959px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
