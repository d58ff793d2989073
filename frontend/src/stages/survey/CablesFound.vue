<script setup lang="ts">
import { computed, ref } from "vue";

import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField, { type Pick } from "@/shared/fields/PickField.vue";
import { length } from "@/shared/units";

import GaugeDialog from "./GaugeDialog.vue";

const schemes = useScheme();
const open = useOpenJob();
const reading = ref<string | null>(null);
const gauges = computed(() =>
  (open.choices?.gauges ?? []).map((gauge) => ({ value: gauge, title: gauge })),
);
const known = computed(
  () => new Map((schemes.scheme?.cable_lengths ?? []).map((found) => [found.cable, found])),
);
const HOW = {
  measured: { mark: "✓", words: "measured", color: "text-success" },
  run: { mark: "✓", words: "by the run", color: "text-success" },
  estimated: { mark: "◆", words: "estimated", color: "text-warning" },
};

const setGauge = (cable: string) => (gauge: Pick["value"]) =>
  schemes.change({ type: "set_cable_gauge", cable, gauge: String(gauge) });
const setLength = (cable: string) => (metres: number | null) =>
  metres === null
    ? false
    : schemes.change({ type: "set_cable_length", cable, length_m: metres, estimated: false });

async function take(gauge: string) {
  if (reading.value && (await setGauge(reading.value)(gauge))) reading.value = null;
}
</script>

<template>
  <section aria-label="Cables" class="block">
    <p>
      A cable takes the measured run between its places. Where it goes another way, measure it
      itself.
    </p>
    <table class="plain">
      <thead>
        <tr>
          <th>Cable</th>
          <th>Size</th>
          <th>Length, one way</th>
          <th>How it is known</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="cable in schemes.scheme?.design.cables" :key="cable.id">
          <th scope="row">{{ schemes.scheme?.cable_names[cable.id] }}</th>
          <td class="size">
            <PickField
              label="Size"
              :value="cable.gauge"
              :picks="gauges"
              :save="setGauge(cable.id)"
            />
            <v-btn size="small" variant="text" @click="reading = cable.id">Print faded?</v-btn>
          </td>
          <td class="long">
            <NumberField
              label="Length"
              unit="m"
              :value="cable.length_m"
              :save="setLength(cable.id)"
            />
            <small>{{ length(cable.length_m) }}</small>
          </td>
          <td :class="HOW[known.get(cable.id)?.how ?? 'estimated'].color">
            <strong>
              {{ HOW[known.get(cable.id)?.how ?? "estimated"].mark }}
              {{ HOW[known.get(cable.id)?.how ?? "estimated"].words }}
            </strong>
          </td>
        </tr>
      </tbody>
    </table>
    <GaugeDialog :open="reading !== null" @close="reading = null" @take="take" />
  </section>
</template>

<style scoped>
th[scope] {
  max-width: 280px;
}
.size {
  min-width: 128px;
}
.long {
  width: 150px;
}
td :deep(label) {
  position: absolute;
  clip-path: inset(50%);
  width: 1px;
  height: 1px;
  overflow: hidden;
}
</style>
