<script setup lang="ts">
/** The proving record: names, PDF, readings as CSV, and the meters with their classes. */
import { computed, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useNotices } from "@/app/notices";
import NumberField from "@/shared/fields/NumberField.vue";
import PaperButtons from "@/shared/PaperButtons.vue";
import { freeId } from "@/shared/ids";

import type { Prove, useProve } from "./useProve";

type Meter = Schemas["Instrument"];
const props = defineProps<{
  prove: Prove;
  stage: ReturnType<typeof useProve>;
  variantId: string;
}>();

const notices = useNotices();
const provedBy = ref("");
const receivedBy = ref("");
const told = (paper: "A4" | "letter") =>
  props.stage.record({ paper, proved_by: provedBy.value, received_by: receivedBy.value });
const MEASURES = { volts: "V", amps: "A" } as const;
const usual = computed(() =>
  props.prove.usual_meters
    .map((one) => `${one.name.toLowerCase()} ${one.percent} % and ${one.digits} digits`)
    .join(", "),
);

async function keep(meters: Meter[]): Promise<boolean> {
  try {
    await unwrap(api.PUT("/api/meters", { body: { meters } }));
    await queries.invalidateQueries({ queryKey: ["report", "prove"] });
    return true;
  } catch (error) {
    notices.failed(error);
    return false;
  }
}
const set = (n: number, fields: Partial<Meter>) =>
  keep(props.prove.meters.map((meter, i) => (i === n ? { ...meter, ...fields } : meter)));

function add(measures: Meter["measures"]) {
  const id = freeId(
    "meter",
    props.prove.meters.map((one) => one.id),
  );
  const plain = props.prove.usual_meters.find((one) => one.measures === measures);
  return plain ? keep([...props.prove.meters, { ...plain, id }]) : Promise.resolve(false);
}
</script>

<template>
  <section aria-label="Record" class="block">
    <h2>Proving record</h2>
    <p>All readings with ranges and meters, deviations, waivers, and what was not tested.</p>
    <div class="names">
      <label>Proved by <input v-model="provedBy" type="text" maxlength="80" /></label>
      <label>Received by <input v-model="receivedBy" type="text" maxlength="80" /></label>
    </div>
    <div class="tools">
      <PaperButtons words="Record" :papers="['A4', 'letter']" :ask="told" />
      <v-btn size="small" :href="`/api/variants/${variantId}/prove/readings.csv`" download>
        Readings, CSV
      </v-btn>
    </div>
    <h2>Meters</h2>
    <p>
      The class that a meter's maker states is part of every range. Without one of your own:
      {{ usual }}.
    </p>
    <ul class="meters">
      <li v-for="(meter, n) in prove.meters" :key="meter.id">
        <label>
          Name
          <input
            type="text"
            maxlength="60"
            :value="meter.name"
            @change="set(n, { name: ($event.target as HTMLInputElement).value })"
          />
        </label>
        <NumberField
          label="Of the reading"
          unit="%"
          :value="meter.percent"
          :save="(value) => set(n, { percent: value ?? 0 })"
        />
        <NumberField
          label="Digits"
          unit=""
          whole
          :value="meter.digits"
          :save="(value) => set(n, { digits: value ?? 0 })"
        />
        <NumberField
          label="Last place"
          :unit="MEASURES[meter.measures]"
          :value="meter.resolution"
          :save="(value) => set(n, { resolution: value ?? 0.01 })"
        />
        <v-btn size="small" @click="keep(prove.meters.filter((_, i) => i !== n))">Take out</v-btn>
      </li>
    </ul>
    <div class="tools">
      <v-btn size="small" @click="add('volts')">Add a voltmeter</v-btn>
      <v-btn size="small" @click="add('amps')">Add a clamp</v-btn>
    </div>
  </section>
</template>

<style scoped>
.names,
.tools,
.meters li {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  margin: 8px 0;
}
.meters {
  list-style: none;
  padding: 0;
}
input {
  min-height: 44px;
  color: inherit;
  border: 1px solid rgb(var(--v-theme-ink), 0.4);
  border-radius: 8px;
  padding: 4px 10px;
}
</style>
