<script setup lang="ts">
/** What records say of this boat: findings with arithmetic, causes, and what happened. */
import { computed } from "vue";

import { ampHours, amps, percent, volts } from "@/shared/units";
import { dayAndHour } from "@/shared/formats";

import type { Held } from "./useRecords";

const props = defineProps<{ held: Held }>();
const emit = defineEmits<{ look: [start: number, end: number] }>();

const SOURCES: Record<string, string> = {
  engine: "engine",
  shore: "shore power",
  sun: "sun",
  unknown: "unknown",
};
const driven = computed(() => props.held.told.spells.filter((s) => s.source !== "sun"));
const usual = computed(() => props.held.told.usual);
const causes = computed(() => props.held.causes.filter((c) => c.faults[0] !== "nothing"));
const belief = (share: number) => (share > 0.99 ? "over 99 %" : percent(share));
const when = (s: number) => dayAndHour(s * 1000);
const written = (value: number, unit: string) =>
  unit === "%" ? percent(value) : `${value.toFixed(unit === "V" ? 2 : 1)} ${unit}`;
</script>

<template>
  <div class="held">
    <div v-if="held.findings.length" aria-label="Findings from records" role="group">
      <h3 class="text-error">▲ The records show what this boat should not</h3>
      <article v-for="one in held.findings" :key="one.key" class="card finding">
        <strong>{{ one.title }}</strong>
        <details>
          <summary>Arithmetic</summary>
          <p v-for="line in one.arithmetic" :key="line">{{ line }}</p>
        </details>
      </article>
    </div>
    <p v-else-if="held.played" class="text-success">
      ✓ Nothing parts from what this boat should show by more than its doubt.
    </p>
    <p v-for="line in held.cannot_tell" :key="line" class="text-info">? {{ line }}</p>
    <div v-if="causes.length" aria-label="Causes" role="group">
      <h3>Causes, each run through what was recorded</h3>
      <ol class="causes">
        <li v-for="cause in causes" :key="cause.faults[0]" class="card">
          <p>
            <strong>{{ belief(cause.share) }}</strong> {{ cause.words[0] }}
          </p>
          <p v-for="words in cause.words.slice(1)" :key="words">
            or, which records cannot part from it: {{ words }}
          </p>
          <p v-if="cause.look"><strong>Look at</strong> {{ cause.look }}.</p>
          <details v-if="cause.speaks.length">
            <summary>With it the run would have</summary>
            <p v-for="line in cause.speaks" :key="line">{{ line }}</p>
          </details>
        </li>
      </ol>
      <p class="care">
        Shares of belief rest on single faults, as often as they are met; own judgement. Prove it by
        meter before parts are bought.
      </p>
    </div>
    <details v-if="held.figures.length" open>
      <summary>Recorded and expected</summary>
      <div class="scroll" tabindex="0" role="group" aria-label="Recorded and expected">
        <table>
          <thead>
            <tr>
              <th scope="col">Figure</th>
              <th scope="col">Recorded</th>
              <th scope="col">Expected</th>
              <th scope="col">Doubt</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in held.figures" :key="one.key">
              <td>{{ one.words }}</td>
              <td>
                <strong>{{ written(one.recorded, one.unit) }}</strong>
              </td>
              <td>{{ written(one.expected, one.unit) }}</td>
              <td>± {{ written(one.doubt, one.unit) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </details>
    <details>
      <summary>
        What happened: {{ driven.length }} {{ driven.length === 1 ? "spell" : "spells" }} of
        charging, {{ held.told.nights.length }} quiet
        {{ held.told.nights.length === 1 ? "night" : "nights" }}
      </summary>
      <ul class="facts">
        <li v-if="usual.base_a !== null">
          Base draw at night <strong>{{ amps(usual.base_a) }}</strong>
        </li>
        <li v-if="usual.bedtime_a !== null">
          At bedtime <strong>{{ amps(usual.bedtime_a) }}</strong>
        </li>
        <li v-if="usual.used_ah !== null">
          Used from nine to nine <strong>{{ ampHours(usual.used_ah) }}</strong> a day
        </li>
        <li v-if="usual.duty !== null">
          Something cycles at night: on <strong>{{ percent(usual.duty) }}</strong> of the time,
          {{ amps(usual.cycle_a) }}
        </li>
        <li v-if="held.told.deepest">
          Deepest <strong>{{ percent(held.told.deepest.charge) }}</strong>,
          {{ when(held.told.deepest.at_s) }}
        </li>
        <li v-if="usual.most_jump !== null">
          The monitor took the bank for full {{ held.told.resets.length }} times, its count off by
          up to <strong>{{ percent(usual.most_jump) }}</strong>
        </li>
        <li v-if="usual.least_float !== null">
          Float began with <strong>{{ percent(usual.least_float) }}</strong> at the least
        </li>
        <li v-if="held.told.gaps.length">{{ held.told.gaps.length }} gaps</li>
      </ul>
      <p v-for="line in held.told.unseen" :key="line" class="text-info">? {{ line }}</p>
      <div class="scroll" tabindex="0" role="group" aria-label="Spells of charging">
        <table>
          <thead>
            <tr>
              <th scope="col">Began</th>
              <th scope="col">From</th>
              <th scope="col">Hours</th>
              <th scope="col">Put in</th>
              <th scope="col">At first</th>
              <th scope="col">Held at</th>
              <th scope="col">Float after</th>
              <th scope="col">Charge at float</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="spell in driven.slice(0, 60)" :key="spell.start_s">
              <td>
                <button
                  type="button"
                  @click="emit('look', spell.start_s - 1800, spell.end_s + 1800)"
                >
                  {{ when(spell.start_s) }}
                </button>
              </td>
              <td>{{ SOURCES[spell.source] }}</td>
              <td>{{ ((spell.end_s - spell.start_s) / 3600).toFixed(1) }} h</td>
              <td>{{ ampHours(spell.put_in_ah) }}</td>
              <td>{{ amps(spell.first_a) }}</td>
              <td>{{ volts(spell.held_v) }}</td>
              <td>
                {{
                  spell.float_s === null
                    ? "–"
                    : `${((spell.float_s - spell.start_s) / 60).toFixed(0)} min`
                }}
              </td>
              <td>{{ spell.charge_at_float === null ? "–" : percent(spell.charge_at_float) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </details>
  </div>
</template>

<style scoped>
.finding {
  border-left: 6px solid rgb(var(--v-theme-error));
  margin: 6px 0;
  font-size: 1.05rem;
}
.causes {
  padding-left: 0;
  list-style: none;
}
.causes .card {
  margin: 6px 0;
}
.causes strong {
  font-size: 1.15rem;
}
summary {
  min-height: 40px;
  padding-top: 8px;
  font-weight: 700;
}
.facts {
  columns: 2 260px;
  padding-left: 18px;
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  font-variant-numeric: tabular-nums;
}
th,
td {
  text-align: left;
  padding: 4px 16px 4px 0;
  white-space: nowrap;
}
tbody tr {
  border-top: 1px solid rgb(var(--v-theme-ink), 0.16);
}
button {
  min-height: 36px;
  text-decoration: underline;
}
</style>
