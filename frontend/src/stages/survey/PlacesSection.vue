<script setup lang="ts">
import TakeOutButton from "@/shared/TakeOutButton.vue";
import { computed, ref } from "vue";

import { useEdits } from "@/documents/useEdits";
import { useSurvey } from "@/documents/surveyStore";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import { length } from "@/shared/units";

const surveys = useSurvey();
const { cell, addRow } = useEdits();
const TRAITS = {
  engine_space: "Engine space",
  vapour: "Petrol vapour",
  within_reach: "Within reach",
};
const INSIDE = {
  width_mm: "Inside, width",
  depth_mm: "Inside, depth",
  height_mm: "Inside, height",
} as const;
const places = computed(() => surveys.survey?.places ?? []);
const runs = computed(() => surveys.survey?.runs ?? []);
const picks = computed(() => places.value.map((p) => ({ value: p.id, title: p.name })));
const from = ref<string | null>(null);
const to = ref<string | null>(null);

function nameOf(id: string): string {
  return places.value.find((place) => place.id === id)?.name ?? id;
}

function toggle(place: (typeof places.value)[number], trait: keyof typeof TRAITS) {
  return surveys.put("places", { id: place.id, [trait]: !place[trait] });
}

async function addPlace() {
  let n = places.value.length + 1;
  while (places.value.some((place) => place.name === `Place ${n}`)) n += 1;
  await addRow("places", `place_${n}`, { name: `Place ${n}` });
}

async function addRun(metres: number | null) {
  if (!from.value || !to.value || metres === null) return false;
  const row = { start: from.value, end: to.value, length_m: metres, measured: true };
  return addRow("runs", `${from.value}_${to.value}`, row);
}
</script>

<template>
  <section aria-label="Places" class="block">
    <h2>Places aboard</h2>
    <p>
      A cable needs its run between two places, and a tail in each of them to its post. Engine
      space: hot; vapour: gas may gather; within reach: without opening anything.
    </p>
    <ul class="rows">
      <li v-for="place in places" :key="place.id" class="row">
        <TextField
          label="Place"
          :value="place.name"
          :save="cell('places', place.id, 'name')"
          required
        />
        <NumberField
          class="short"
          label="Tail"
          unit="m"
          :value="place.tail_m"
          :save="cell('places', place.id, 'tail_m')"
        />
        <fieldset>
          <legend class="d-sr-only">Traits of {{ place.name }}</legend>
          <label v-for="(words, trait) in TRAITS" :key="trait">
            <input type="checkbox" :checked="place[trait]" @change="toggle(place, trait)" />
            {{ words }}
          </label>
        </fieldset>
        <TakeOutButton :what="`${place.name}`" @click="surveys.remove('places', place.id)" />
        <details class="inside">
          <summary>Inside and opening</summary>
          <div class="sizes">
            <NumberField
              class="short"
              label="Opening for gas"
              unit="cm²"
              :value="place.opening_cm2"
              :save="cell('places', place.id, 'opening_cm2')"
              optional
            />
            <NumberField
              v-for="(words, side) in INSIDE"
              :key="side"
              class="short"
              :label="words"
              unit="mm"
              :value="place[side]"
              :save="cell('places', place.id, side)"
              optional
            />
          </div>
        </details>
      </li>
    </ul>
    <v-btn @click="addPlace">Add a place</v-btn>
    <h2>Runs between places</h2>
    <p>Measured once along the real way of the cables; every cable on it follows.</p>
    <ul class="rows">
      <li v-for="run in runs" :key="run.id" class="row run">
        <strong>{{ nameOf(run.start) }} – {{ nameOf(run.end) }}</strong>
        <NumberField
          class="short"
          label="Length"
          unit="m"
          :value="run.length_m"
          :save="(metres) => surveys.put('runs', { id: run.id, length_m: metres, measured: true })"
        />
        <span class="feet">{{ length(run.length_m) }}</span>
        <span v-if="run.measured" class="text-success">✓ measured</span>
        <span v-else class="estimated">
          <span class="text-warning">◆ estimated</span>
          <v-btn size="small" @click="surveys.put('runs', { id: run.id, measured: true })">
            It is right as it stands
          </v-btn>
        </span>
        <TakeOutButton
          :what="`the run ${nameOf(run.start)} to ${nameOf(run.end)}`"
          @click="surveys.remove('runs', run.id)"
        />
      </li>
    </ul>
    <div class="row add">
      <PickField
        label="New run from"
        none="Pick a place"
        :value="from"
        :picks="picks"
        :save="(v) => !!(from = v as string)"
      />
      <PickField
        label="to"
        none="Pick a place"
        :value="to"
        :picks="picks"
        :save="(v) => !!(to = v as string)"
      />
      <NumberField class="short" label="Length" unit="m" :value="null" :save="addRun" />
    </div>
  </section>
</template>

<style scoped>
.rows {
  list-style: none;
  padding: 0;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
  padding: 8px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
.short {
  width: 116px;
}
fieldset {
  border: 0;
  flex: 1;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
fieldset label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 40px;
}
input[type="checkbox"] {
  width: 22px;
  height: 22px;
  accent-color: rgb(var(--v-theme-secondary));
}
.run strong {
  width: 240px;
}
.run > :last-child {
  margin-left: auto;
}
.estimated {
  display: flex;
  gap: 10px;
  align-items: center;
  font-weight: 700;
}
.text-success {
  font-weight: 700;
}
.add > * {
  min-width: 116px;
}
.inside {
  flex: 1 0 100%;
}
.sizes {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
}
</style>
