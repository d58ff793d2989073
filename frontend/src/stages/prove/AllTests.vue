<script setup lang="ts">
/** Every test with its range and how it stands, and what was found today. */
import { computed } from "vue";

import NumberField from "@/shared/fields/NumberField.vue";

import { ANSWERS, type Answer, type Prove, type useProve } from "./useProve";

const props = defineProps<{ prove: Prove; stage: ReturnType<typeof useProve> }>();
const emit = defineEmits<{ open: [key: string] }>();

const groups = computed(() =>
  Object.entries(props.prove.groups)
    .map(([id, name]) => ({ name, tests: props.prove.tests.filter((t) => t.group === id) }))
    .filter((group) => group.tests.length),
);
const counts = computed(() =>
  (Object.keys(ANSWERS) as Answer[]).filter((answer) => props.prove.counts[answer]),
);
const answer = (key: string) => ANSWERS[props.prove.states[key]?.answer ?? "open"];
const last = (key: string) =>
  props.prove.states[key]?.entries.find((entry) => entry.reading)?.reading?.value;

async function today(fields: Partial<Prove["today"]>) {
  const told = { ...props.prove.today, ...fields };
  return (await props.stage.enter({ kind: "today", target: "today", today: told })) !== null;
}
</script>

<template>
  <section aria-label="All tests" class="block">
    <div class="today">
      <NumberField
        label="Air today"
        unit="°C"
        :value="prove.today.temperature_c"
        :save="(value) => today({ temperature_c: value })"
        optional
      />
      <NumberField
        label="Banks have rested"
        unit="h"
        :value="prove.today.rested_h"
        :save="(value) => today({ rested_h: value ?? 0 })"
      />
      <p>
        <span v-for="one in counts" :key="one" :class="`text-${ANSWERS[one].color}`">
          {{ ANSWERS[one].mark }} {{ prove.counts[one] }} {{ ANSWERS[one].word }}
        </span>
      </p>
    </div>
    <p>Rest volts that are read make the ranges of all later tests narrower.</p>
    <template v-for="group in groups" :key="group.name">
      <h2>{{ group.name }}</h2>
      <ul class="tests">
        <li v-for="test in group.tests" :key="test.key">
          <button type="button" @click="emit('open', test.key)">
            <span class="mark" :class="`text-${answer(test.key).color}`">
              {{ answer(test.key).mark }}
            </span>
            <span class="title">{{ test.title }}</span>
            <span class="range">
              <template v-if="test.wanted">
                {{ test.wanted.low.toFixed(2) }} to {{ test.wanted.high.toFixed(2) }}
                {{ test.unit }}
              </template>
              <template v-else>{{ test.expects }}</template>
            </span>
            <strong class="read">
              {{ last(test.key) === undefined ? "" : `${last(test.key)} ${test.unit}` }}
            </strong>
            <span :class="`text-${answer(test.key).color}`">{{ answer(test.key).word }}</span>
          </button>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.today {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: center;
}
.today span {
  margin-right: 14px;
  font-weight: 700;
}
.tests {
  list-style: none;
  padding: 0;
}
button {
  display: grid;
  grid-template-columns: 24px minmax(200px, 1fr) minmax(150px, 1fr) 90px 120px;
  gap: 10px;
  width: 100%;
  min-height: 44px;
  align-items: center;
  text-align: left;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
button:hover {
  background: rgb(var(--v-theme-ink), 0.06);
}
.read {
  text-align: right;
}
@media (max-width: 959px) {
  button {
    grid-template-columns: 24px 1fr auto;
    padding: 6px 0;
  }
  .range,
  .read {
    grid-column: 2;
    text-align: left;
  }
}
</style>
