<script setup lang="ts">
import { computed } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useScheme, type Part } from "@/documents/schemeStore";
import { useEdits } from "@/documents/useEdits";
import { useSurvey } from "@/documents/surveyStore";
import NumberField from "@/shared/fields/NumberField.vue";
import { CHOICES } from "@/parts/kinds";
import PickField, { type Pick } from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";
import { length } from "@/shared/units";

const surveys = useSurvey();
const schemes = useScheme();
const notices = useNotices();
const { field, figure } = useEdits();
type SystemVolts = Schemas["SetSystemVolts"]["system_v"] | undefined;
type Starter = Extract<Part, { kind: "starter" }>;
const starters = computed(() =>
  schemes.parts.filter((part): part is Starter => part.kind === "starter"),
);

function setVolts(volts: Pick["value"]) {
  const system_v = CHOICES.system_v.find((one) => one.value === volts)?.value as SystemVolts;
  return system_v ? schemes.change({ type: "set_system_volts", system_v }) : false;
}

async function estimate(starter: Starter) {
  if (!starter.power_kw || !schemes.scheme) return;
  const query = { power_kw: starter.power_kw, system_v: schemes.scheme.design.system_v };
  try {
    const found = await unwrap(api.GET("/api/cranking", { params: { query } }));
    const assumed = [...new Set([...starter.assumed, "cranking_a"])];
    const fields = { cranking_a: found.cranking_a, assumed };
    if (await schemes.change({ type: "set_part", part: starter.id, fields })) {
      notices.said(found.words);
    }
  } catch (error) {
    notices.failed(error);
  }
}
</script>

<template>
  <section v-if="surveys.survey && schemes.scheme" aria-label="Boat" class="block">
    <div class="fields">
      <TextField
        label="Kind of boat"
        :value="surveys.survey.boat.kind"
        :save="field('boat', 'kind')"
        required
      />
      <NumberField
        :label="`Length (${length(surveys.survey.boat.length_m)})`"
        unit="m"
        :value="surveys.survey.boat.length_m"
        :save="field('boat', 'length_m')"
      />
      <PickField
        label="Hull"
        :value="surveys.survey.boat.hull"
        :picks="CHOICES.hull"
        :save="field('boat', 'hull')"
        nullable
      />
      <PickField
        label="Fuel"
        :value="surveys.survey.boat.fuel"
        :picks="CHOICES.fuel"
        :save="field('boat', 'fuel')"
      />
      <PickField
        label="System voltage"
        :value="schemes.scheme.design.system_v"
        :picks="CHOICES.system_v"
        :save="setVolts"
      />
      <NumberField
        label="Latitude of the cruising ground"
        unit="°"
        :value="surveys.survey.boat.latitude_deg"
        :save="field('boat', 'latitude_deg')"
        nullable
      />
      <NumberField
        label="Coldest morning to start on"
        unit="°C"
        :value="surveys.survey.boat.coldest_c"
        :save="field('boat', 'coldest_c')"
        nullable
      />
    </div>
    <h2>Engine and starter</h2>
    <div class="fields">
      <NumberField
        label="Engine power"
        unit="kW"
        :value="surveys.survey.boat.engine_kw"
        :save="field('boat', 'engine_kw')"
        nullable
      />
      <NumberField
        label="Engines"
        :value="surveys.survey.boat.engine_count"
        :save="field('boat', 'engine_count')"
      />
      <template v-for="starter in starters" :key="starter.id">
        <NumberField
          :label="`${starter.name}, power on the plate`"
          unit="kW"
          :value="starter.power_kw"
          :assumed="starter.assumed.includes('power_kw')"
          :save="figure(starter.id, 'power_kw')"
          nullable
        />
        <NumberField
          :label="`${starter.name}, amps while cranking`"
          unit="A"
          :value="starter.cranking_a"
          :assumed="starter.assumed.includes('cranking_a')"
          :save="figure(starter.id, 'cranking_a')"
        />
      </template>
    </div>
    <v-btn
      v-for="starter in starters"
      :key="starter.id"
      class="mb-3"
      :disabled="!starter.power_kw"
      @click="estimate(starter)"
    >
      Estimate the amps of {{ starter.name.toLowerCase() }} from its power
    </v-btn>
    <TextField
      label="Notes"
      :value="surveys.survey.boat.notes"
      :save="field('boat', 'notes')"
      :rows="2"
    />
  </section>
</template>
