<script setup lang="ts">
import TakeOutButton from "@/shared/TakeOutButton.vue";
/** Days counted by a battery monitor, beside what the audit says of the same. */
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import { useOpenJob } from "@/documents/openJob";
import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import { SEASONS } from "@/shared/seasons";
import { today } from "@/shared/today";
import { ampHours, percent } from "@/shared/units";

defineProps<{ comparisons: Schemas["Comparison"][] }>();
const emit = defineEmits<{ bringIn: [file: Blob] }>();

const surveys = useSurvey();
const open = useOpenJob();
const { addRow } = useEdits();
const picker = ref<HTMLInputElement | null>(null);
const date = ref(today());
const profile = ref<string | null>(null);
const season = ref<string | null>(null);
const profiles = computed(() =>
  (surveys.survey?.profiles ?? []).map((p) => ({ value: p.id, title: p.name })),
);
const days = computed(() =>
  [...(surveys.survey?.counted ?? [])].sort((a, b) => b.date.localeCompare(a.date)),
);
const nameOf = (id: string) => profiles.value.find((p) => p.value === id)?.title ?? id;

function add(used: number | null) {
  if (used === null) return false;
  const row = {
    date: date.value,
    used_ah: used,
    profile: profile.value ?? profiles.value[0]?.value ?? null,
    season: season.value ?? surveys.survey?.use.season ?? null,
  };
  return addRow("counted", `day_${date.value}`, row);
}

function chosen(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (file) emit("bringIn", file);
  input.value = "";
}
</script>

<template>
  <section aria-label="Counted by the monitor" class="block">
    <p>
      Ampere-hours a monitor counted out in a day with nothing charging: 0 is full, the count below
      it is what was used.
    </p>
    <div class="both">
      <article
        v-for="row in comparisons"
        :key="row.count.profile + row.count.season"
        class="card"
        :aria-label="`${row.count.name}, ${row.count.season}`"
      >
        <h3>{{ row.count.name }}, {{ row.count.season }}</h3>
        <p class="big">
          {{ ampHours(row.count.mean_ah) }}
          <small v-if="row.count.spread_ah != null">± {{ ampHours(row.count.spread_ah) }}</small>
          <small> counted</small>
        </p>
        <p>
          {{ row.count.days }} {{ row.count.days === 1 ? "day" : "days" }}, worst
          {{ ampHours(row.count.worst_ah) }} on {{ row.count.worst_date }}
        </p>
        <p class="big">{{ ampHours(row.audited_ah) }} <small>by the audit</small></p>
        <p v-if="row.agree" class="text-success">
          <strong>✓ They agree: {{ percent(Math.abs(row.difference_share)) }} apart.</strong>
        </p>
        <template v-else>
          <p class="text-warning">
            <strong>
              ◆ {{ ampHours(Math.abs(row.difference_ah)) }} a day
              {{ row.difference_ah > 0 ? "more" : "less" }} counted than audited. Likely:
            </strong>
          </p>
          <ul>
            <li v-for="reason in row.reasons" :key="reason.words">
              {{ reason.words }}
              <span v-if="reason.explains_ah">explains {{ ampHours(reason.explains_ah) }}</span>
            </li>
          </ul>
        </template>
      </article>
    </div>
    <h2>Days</h2>
    <div class="fields">
      <TextField label="Date" type="date" :value="date" :save="(d) => !!(date = d)" required />
      <PickField
        label="Profile"
        :value="profile ?? profiles[0]?.value"
        :picks="profiles"
        :save="(v) => !!(profile = v as string)"
      />
      <PickField
        label="Season"
        :value="season ?? surveys.survey?.use.season"
        :picks="SEASONS"
        :save="(v) => !!(season = v as string)"
      />
      <NumberField label="Used" unit="Ah" :value="null" :save="add" />
    </div>
    <div class="tools">
      <v-btn @click="picker?.click()">Bring in CSV</v-btn>
      <v-btn variant="text" :href="`/api/jobs/${open.ids.job}/rows/counted`">Export CSV</v-btn>
      <input
        ref="picker"
        type="file"
        accept=".csv,.txt,.tsv,text/csv"
        hidden
        aria-label="Counted days as CSV"
        @change="chosen"
      />
    </div>
    <table class="plain">
      <thead>
        <tr>
          <th>Date</th>
          <th>Used</th>
          <th>Profile</th>
          <th>Season</th>
          <th>Note</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="day in days" :key="day.id">
          <th scope="row">{{ day.date }}</th>
          <td>
            <strong>{{ ampHours(day.used_ah) }}</strong>
          </td>
          <td>{{ nameOf(day.profile) }}</td>
          <td>{{ day.season }}</td>
          <td class="words">{{ day.note }}</td>
          <td>
            <TakeOutButton :what="`${day.date}`" @click="surveys.remove('counted', day.id)" />
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.both {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 12px;
}
.big {
  font-size: 1.5rem;
  font-weight: 800;
  line-height: 1.2;
}
.big small {
  font-size: 0.95rem;
  font-weight: 600;
}
ul {
  padding-left: 18px;
}
.tools {
  display: flex;
  gap: 8px;
}
</style>
