<script setup lang="ts">
/** How a file is read: each column with what it holds, as guessed, to be mended by hand. */
import { ref, watch } from "vue";

import type { RecordFile, RecordLayout, Records } from "./useRecords";

const props = defineProps<{ record: RecordFile | null; records: Records }>();
const emit = defineEmits<{
  close: [];
  start: [layout: RecordLayout, driven: RecordFile["driven"]];
}>();

const layout = ref<RecordLayout | null>(null);
const driven = ref<RecordFile["driven"]>("both");
const WORDS: Record<string, string> = {
  time: "time, or the date",
  clock: "clock beside a date",
  volts: "volts",
  amps: "amps",
  power: "power",
  charge: "charge, of full",
  counted: "counted Ah, from full",
  temperature: "temperature",
  nothing: "not read",
};
const DRIVEN: [RecordFile["driven"], string][] = [
  ["both", "engine and shore, not known which"],
  ["engine", "the engine; never shore power"],
  ["shore", "shore power; the engine never ran"],
];
watch(
  () => props.record,
  (now) => {
    layout.value = now ? (JSON.parse(JSON.stringify(now.layout)) as RecordLayout) : null;
    driven.value = now?.driven ?? "both";
  },
  { immediate: true },
);
const columns = () => layout.value?.columns ?? [];

function means(n: number, quantity: string) {
  const column = columns()[n];
  if (!column) return;
  column.quantity = quantity as typeof column.quantity;
  column.unit = props.records.units[quantity]?.[0] ?? "";
}
</script>

<template>
  <v-dialog
    :model-value="record !== null"
    scrollable
    persistent
    max-width="980"
    aria-label="How the file is read"
  >
    <v-card v-if="record && layout" :title="`How ${record.name} is read`">
      <v-card-text>
        <p v-for="line in record.assumed" :key="line" class="text-warning">◆ {{ line }}</p>
        <div class="row">
          <label>
            Times are written
            <select v-model="layout.time_format" class="boxed">
              <option v-for="one in records.time_formats" :key="one">{{ one }}</option>
            </select>
          </label>
          <label>
            Zone the boat lies in
            <input v-model="layout.zone" class="boxed" list="zones" autocomplete="off" />
            <datalist id="zones">
              <option v-for="one in records.zones" :key="one" :value="one" />
            </datalist>
          </label>
          <label>
            Decimals
            <select v-model="layout.decimal" class="boxed">
              <option value=".">12.7</option>
              <option value=",">12,7</option>
            </select>
          </label>
          <label>
            Charged, beside the sun, by
            <select v-model="driven" class="boxed">
              <option v-for="[id, words] in DRIVEN" :key="id" :value="id">{{ words }}</option>
            </select>
          </label>
        </div>
        <div class="scroll" tabindex="0" role="group" aria-label="Columns of the file">
          <table>
            <thead>
              <tr>
                <th v-for="(column, n) in layout.columns" :key="n" scope="col">
                  {{ column.head || `Column ${n + 1}` }}
                  <select
                    :value="column.quantity"
                    :aria-label="`What ${column.head} is`"
                    @change="means(n, ($event.target as HTMLSelectElement).value)"
                  >
                    <option v-for="(words, id) in WORDS" :key="id" :value="id">{{ words }}</option>
                  </select>
                  <select
                    v-if="(records.units[column.quantity ?? 'nothing']?.length ?? 0) > 1"
                    v-model="column.unit"
                    :aria-label="`Unit of ${column.head}`"
                  >
                    <option v-for="unit in records.units[column.quantity ?? 'nothing']" :key="unit">
                      {{ unit }}
                    </option>
                  </select>
                  <label
                    v-if="column.quantity === 'amps' || column.quantity === 'power'"
                    class="check"
                  >
                    <input v-model="column.flipped" type="checkbox" /> plus is out of the bank
                  </label>
                </th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(row, i) in record.sample" :key="i">
                <td v-for="(cell, n) in row" :key="n">{{ cell }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Not now</v-btn>
        <v-btn
          color="secondary"
          variant="flat"
          size="large"
          @click="layout && emit('start', layout, driven)"
        >
          Read the rows
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-bottom: 12px;
}
.boxed {
  max-width: 260px;
}
.check {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 40px;
}
.scroll {
  overflow-x: auto;
}
th {
  vertical-align: top;
  text-align: left;
  padding: 6px 12px 6px 0;
  min-width: 150px;
}
td {
  padding: 3px 12px 3px 0;
  white-space: nowrap;
  font-variant-numeric: tabular-nums;
}
</style>
