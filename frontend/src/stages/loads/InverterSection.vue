<script setup lang="ts">
import type { Schemas } from "@/api/client";
import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import { withEntry } from "@/shared/records";
import { hours, wattHours, watts } from "@/shared/units";

defineProps<{ days: Schemas["ProfileDay"][] }>();

const surveys = useSurvey();
const { field } = useEdits();
const MAINS = [230, 240, 220, 120, 110, 100].map((v) => ({ value: v, title: `${v} V` }));
const START = { rated_w: 1000, idle_w: 10, mains_v: 230 };

function setHours(profile: string, value: number | null) {
  return field("inverter", "on_h")(withEntry(surveys.survey?.inverter?.on_h, profile, value));
}
</script>

<template>
  <section aria-label="Inverter" class="block">
    <p>
      AC loads pass the inverter with its efficiency at their load; its own idle draw counts for as
      long as it is switched on.
    </p>
    <template v-if="surveys.survey?.inverter">
      <div class="fields">
        <NumberField
          label="Rated"
          unit="W"
          :value="surveys.survey.inverter.rated_w"
          :save="field('inverter', 'rated_w')"
        />
        <NumberField
          label="Idle draw"
          unit="W"
          :value="surveys.survey.inverter.idle_w"
          :save="field('inverter', 'idle_w')"
        />
        <PickField
          label="Mains"
          :value="surveys.survey.inverter.mains_v"
          :picks="MAINS"
          :save="field('inverter', 'mains_v')"
        />
      </div>
      <h2>Hours switched on</h2>
      <article v-for="day in days" :key="day.profile" class="card">
        <div class="card-head">
          <h3>{{ day.name }}</h3>
          <NumberField
            class="on"
            label="Switched on"
            unit="h a day"
            :value="surveys.survey.inverter.on_h?.[day.profile] ?? 0"
            :save="(value) => setHours(day.profile, value)"
          />
        </div>
        <template v-if="day.inverter">
          <p>
            Idle draw {{ watts(day.inverter.idle_w) }}:
            <strong>{{ wattHours(day.inverter.idle_wh) }} a day</strong>; AC is wanted for
            {{ hours(day.inverter.ac_items_h) }} at the longest.
          </p>
          <p v-if="day.inverter.off_while_wanted" class="text-warning">
            <strong>◆ It is off while AC is wanted: more hours on, or fewer of AC.</strong>
          </p>
          <p v-if="day.inverter.overload_w > 0" class="text-error">
            <strong>▲ The largest AC load is {{ watts(day.inverter.overload_w) }} over it.</strong>
          </p>
        </template>
      </article>
      <v-btn variant="text" @click="surveys.set('inverter', null)">No inverter aboard</v-btn>
    </template>
    <v-btn v-else size="large" @click="surveys.set('inverter', START)">
      There is an inverter aboard
    </v-btn>
  </section>
</template>

<style scoped>
.on {
  width: 170px;
}
</style>
