<script setup lang="ts">
import { CHOICES } from "@/parts/kinds";
import TakeOutButton from "@/shared/TakeOutButton.vue";
/** What sun, wind, water and engine give, the three ways of counting the sun side by side. */
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { useOpenJob } from "@/documents/openJob";
import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import { ampHours, percent, watts, wattHours } from "@/shared/units";

import CurveField from "./CurveField.vue";

const props = defineProps<{ yields: Schemas["Yields"] }>();

const surveys = useSurvey();
const open = useOpenJob();
const { field, cell, addRow } = useEdits();
const sun = computed(() => surveys.survey?.sun ?? null);
const most = computed(() => Math.max(1, ...props.yields.solar.ways.map((way) => way.charge_ah)));
const skies = computed(() =>
  (open.choices?.skies ?? []).map((sky) => ({ value: sky.id, title: sky.label })),
);
const curves = computed(() => open.choices?.curves ?? []);
const MONTHS = [...Array(12).keys()].map((n) => ({
  value: n + 1,
  title: new Date(2026, n, 15).toLocaleString("en", { month: "long" }),
}));

/** A share typed in per cent. */
const share = (name: "shading") => (value: number | null) =>
  field("sun", name)(value === null ? 0 : value / 100);

function addGenerator(kind: "wind" | "towed") {
  const curve = curves.value.find((c) => c.kind === kind);
  const hours = Object.fromEntries(
    (surveys.survey?.profiles ?? []).map((p) => [p.id, kind === "wind" ? 24 : 0]),
  );
  const name = kind === "wind" ? "Wind generator" : "Towed generator";
  const speed = kind === "wind" ? 10 : 6;
  return addRow("generators", name, {
    name,
    kind,
    curve: curve?.id ?? null,
    speed_kn: speed,
    hours,
  });
}

const hoursIn = (id: string, profile: string) => (value: number | null) => {
  const row = surveys.survey?.generators.find((g) => g.id === id);
  return cell("generators", id, "hours")({ ...row?.hours, [profile]: value ?? 0 });
};

const engineIn = (profile: string) => (value: number | null) =>
  field("sizing", "engine_h")({ ...surveys.survey?.sizing.engine_h, [profile]: value ?? 0 });

function daysOf(id: string) {
  return props.yields.generators.filter((day) => day.generator === id);
}
</script>

<template>
  <section v-if="sun && surveys.survey" aria-label="Yield" class="block">
    <h2>Sun on {{ watts(yields.solar.panel_w) }} of panels</h2>
    <p v-if="!yields.solar.panel_w">
      No panel in this variant: put one in on the stage Survey, or look at a proposal that has one.
    </p>
    <p v-if="yields.solar.why_not" class="text-warning">
      <strong>◆ The ways differ by {{ percent(yields.solar.spread) }}.</strong>
      {{ yields.solar.why_not }}
    </p>
    <div class="ways" role="radiogroup" aria-label="Which way counts">
      <article v-for="way in yields.solar.ways" :key="way.way" class="card way">
        <button
          type="button"
          role="radio"
          :aria-checked="yields.solar.counted === way.way"
          :class="{ here: yields.solar.counted === way.way }"
          @click="surveys.set('sun', { counts: way.way })"
        >
          <span class="name">{{ way.label }}</span>
          <span class="ah">{{ ampHours(way.charge_ah) }}<small> a day</small></span>
          <span class="bar" :style="{ width: `${(100 * way.charge_ah) / most}%` }"></span>
          <span>{{ wattHours(way.energy_wh) }}</span>
          <span v-if="yields.solar.counted === way.way" class="text-success">
            ✓ this one counts
          </span>
          <span v-else>let this one count</span>
        </button>
        <details>
          <summary>Arithmetic</summary>
          <p v-for="line in way.working" :key="line">{{ line }}</p>
          <p class="source">{{ way.source }}</p>
        </details>
      </article>
    </div>
    <div class="fields">
      <PickField label="Sky" :value="sun.sky" :picks="skies" :save="field('sun', 'sky')" />
      <PickField
        label="Month"
        :value="sun.month"
        :picks="[{ value: null, title: 'by the season' }, ...MONTHS]"
        :save="field('sun', 'month')"
      />
      <NumberField
        label="Shaded"
        unit="%"
        :value="Math.round(100 * sun.shading)"
        :save="share('shading')"
      />
      <PickField
        label="Mounting"
        :value="sun.mounting"
        :picks="CHOICES.mounting"
        :save="field('sun', 'mounting')"
      />
      <NumberField
        label="Age of the panels"
        unit="years"
        :value="sun.panel_age_years"
        :save="field('sun', 'panel_age_years')"
      />
      <NumberField
        label="Own k (empty: by the sky)"
        unit="W/Ah"
        :value="sun.divisor"
        :save="(value) => surveys.set('sun', { divisor: value })"
        optional
      />
      <NumberField
        label="Own peak-sun hours"
        unit="h"
        :value="sun.peak_sun_h"
        :save="(value) => surveys.set('sun', { peak_sun_h: value })"
        optional
      />
      <NumberField
        label="Adjustment: flat, warm, shaded"
        unit="×"
        :value="sun.adjustment"
        :save="field('sun', 'adjustment')"
      />
    </div>
    <h2>Wind and water</h2>
    <article v-for="machine in surveys.survey.generators" :key="machine.id" class="card">
      <div class="card-head">
        <h3>{{ machine.name }}</h3>
        <TakeOutButton
          :what="`${machine.name}`"
          @click="surveys.remove('generators', machine.id)"
        />
      </div>
      <div class="fields">
        <TextField
          label="Name"
          :value="machine.name"
          :save="cell('generators', machine.id, 'name')"
          required
        />
        <NumberField
          :label="machine.kind === 'wind' ? 'Mean wind' : 'Boat speed'"
          unit="kn"
          :value="machine.speed_kn"
          :save="cell('generators', machine.id, 'speed_kn')"
        />
        <NumberField
          v-for="profile in surveys.survey.profiles"
          :key="profile.id"
          :label="`Hours ${profile.name.toLowerCase()}`"
          unit="h a day"
          :value="machine.hours?.[profile.id] ?? 0"
          :save="hoursIn(machine.id, profile.id)"
        />
      </div>
      <CurveField :machine="machine" :curves="curves" />
      <p v-for="day in daysOf(machine.id)" :key="day.working[0]">
        {{ day.working[0] }} <span class="source">{{ day.source }}</span>
      </p>
    </article>
    <div class="kinds">
      <v-btn @click="addGenerator('wind')">Add a wind generator</v-btn>
      <v-btn @click="addGenerator('towed')">Add a towed generator</v-btn>
    </div>
    <h2>Engine hours</h2>
    <div class="fields">
      <NumberField
        v-for="profile in surveys.survey.profiles"
        :key="profile.id"
        :label="profile.name"
        unit="h a day"
        :value="surveys.survey.sizing.engine_h?.[profile.id] ?? 0"
        :save="engineIn(profile.id)"
      />
    </div>
    <h2>A day, profile by profile</h2>
    <table class="plain">
      <thead>
        <tr>
          <th>Profile</th>
          <th>Used</th>
          <th>Sun</th>
          <th>Wind and water</th>
          <th>Net</th>
          <th>Engine could give</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in yields.profiles" :key="row.profile">
          <th scope="row">{{ row.name }}{{ row.shore ? " (shore lead in)" : "" }}</th>
          <td>{{ ampHours(row.use_ah) }}</td>
          <td>{{ ampHours(row.solar_ah) }}</td>
          <td>{{ ampHours(row.generators_ah) }}</td>
          <td>
            <strong>{{ ampHours(row.net_ah) }}</strong>
          </td>
          <td>{{ ampHours(row.engine_ah) }}</td>
        </tr>
      </tbody>
    </table>
    <p class="source">
      The engine is reckoned at {{ yields.alternator_hot_a.toFixed(0) }} A: what its alternators
      really give hot. It is not taken off the net use: it is what charges the bank between.
    </p>
  </section>
</template>

<style scoped>
.ways {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
  gap: 12px;
}
.way {
  padding: 0;
  overflow: hidden;
}
.way button {
  display: flex;
  flex-direction: column;
  width: 100%;
  text-align: left;
  padding: 10px 14px;
  color: inherit;
}
.here {
  background: rgb(var(--v-theme-surface-variant)) !important;
}
.name {
  font-weight: 700;
}
.ah {
  font-size: 1.7rem;
  font-weight: 800;
  line-height: 1.2;
}
small {
  font-size: 0.95rem;
}
.bar {
  height: 8px;
  border-radius: 4px;
  background: rgb(var(--v-theme-sun));
  margin: 3px 0;
}
details {
  padding: 0 14px 8px;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
