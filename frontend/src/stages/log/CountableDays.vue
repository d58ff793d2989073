<script setup lang="ts">
/** Days of a file of records in which nothing charged: one click takes them into the audit. */
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import { useSurvey } from "@/documents/surveyStore";
import PickField from "@/shared/fields/PickField.vue";
import { day as onDay } from "@/shared/formats";
import { freeId } from "@/shared/ids";
import { ampHours } from "@/shared/units";

const props = defineProps<{ counted: Schemas["CountableDays"]; file: string }>();

const surveys = useSurvey();
const chosen = ref<string | null>(null);
const profiles = computed(() =>
  (surveys.survey?.profiles ?? []).map((p) => ({ value: p.id, title: p.name })),
);
const profile = computed(() => chosen.value ?? profiles.value[0]?.value ?? null);
const days = computed(() => props.counted.days);
const known = computed(() => new Set((surveys.survey?.counted ?? []).map((d) => d.date)));
const fresh = computed(() => days.value.filter((d) => !known.value.has(d.date)));
const of = (count: number) => `${count} ${count === 1 ? "day" : "days"}`;

function take() {
  const taken = (surveys.survey?.counted ?? []).map((d) => d.id);
  const rows = fresh.value.map((d) => {
    const id = freeId(`day_${d.date}`, taken);
    taken.push(id);
    return { id, ...d, profile: profile.value, note: `Records: ${props.file}`.slice(0, 200) };
  });
  return surveys.put("counted", ...rows);
}
</script>

<template>
  <section v-if="surveys.survey" aria-label="Days that count" class="card">
    <h3>Days from nine to nine without any charge</h3>
    <p v-if="counted.mean_ah === null || counted.most_ah === null">
      None of {{ of(counted.left_out) }} counts for the audit. {{ counted.why }}
    </p>
    <template v-else>
      <p>
        <strong class="big">{{ of(days.length) }}</strong> of {{ days.length + counted.left_out }},
        from {{ onDay(`${days[0]?.date}T12:00`) }} on:
        <strong>{{ ampHours(counted.mean_ah) }}</strong> a day on average,
        {{ ampHours(counted.most_ah) }} at most.
        <span v-if="counted.left_out">Left out {{ of(counted.left_out) }}: {{ counted.why }}</span>
      </p>
      <p v-if="counted.doubt" class="care">◆ {{ counted.doubt }}</p>
      <div v-if="fresh.length" class="card-head">
        <PickField
          label="How people lived then"
          :value="profile"
          :picks="profiles"
          :save="(v) => !!(chosen = v as string)"
        />
        <v-btn color="secondary" variant="flat" :disabled="profile === null" @click="take">
          Take {{ of(fresh.length) }} into Loads
        </v-btn>
      </div>
      <p v-else class="text-success">✓ All of them are in Loads, counted by the monitor.</p>
    </template>
  </section>
</template>

<style scoped>
.big {
  font-size: 1.3rem;
}
</style>
