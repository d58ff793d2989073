<script setup lang="ts">
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import NumberField from "@/shared/fields/NumberField.vue";

import PartsTableDialog from "./PartsTableDialog.vue";
import type { Build, NewEntry, NewPrice } from "./useBuild";

const props = defineProps<{
  build: Build;
  variantId: string;
  enter: (...made: NewEntry[]) => Promise<boolean>;
  price: (...rows: NewPrice[]) => Promise<boolean>;
  busy: boolean;
}>();

const onlyOpen = ref(false);
const table = ref<Blob | null>(null);
const picker = ref<HTMLInputElement | null>(null);
const parts = computed(() => props.build.book.parts);
const here = (key: string) => props.build.state.received[key]?.count ?? null;
const open = (line: Schemas["PartsLine"]) => (here(line.key) ?? 0) < line.needed - 1e-9;
const lines = computed(() => parts.value.lines.filter((line) => !onlyOpen.value || open(line)));
const groups = computed(() =>
  [...new Set(lines.value.map((line) => line.group))].map((name) => ({
    name,
    lines: lines.value.filter((line) => line.group === name),
  })),
);
const left = computed(() => parts.value.lines.filter(open).length);
const file = (name: string) => `/api/variants/${props.variantId}/build/${name}`;
const count = (value: number, unit: string) => (unit ? `${value.toFixed(2)} ${unit}` : `${value}`);

function keep(line: Schemas["PartsLine"], fields: Partial<NewPrice>) {
  return props.price({ item: line.item, ...fields });
}

function bringIn(event: Event) {
  const input = event.target as HTMLInputElement;
  table.value = input.files?.[0] ?? null;
  input.value = "";
}

function receive(line: Schemas["PartsLine"], value: number | null) {
  return props.enter({ kind: "received", target: line.key, count: value ?? 0 });
}
</script>

<template>
  <section aria-label="Parts" class="block">
    <div class="card-head">
      <p>
        <strong>{{ left }}</strong> of {{ parts.lines.length }} lines not yet received;
        <template v-if="build.book.costs.gear !== null">
          {{ parts.currency }} {{ parts.cost.toFixed(2) }}, {{ parts.unpriced }} without a price
        </template>
        <template v-else>no prices yet: keep them in the workshop's stock</template>; copper
        {{ parts.copper_kg.toFixed(1) }} kg
      </p>
      <div class="tools">
        <label><input v-model="onlyOpen" type="checkbox" /> Only what is missing</label>
        <v-btn size="small" @click="picker?.click()">Prices, receipts from a file</v-btn>
        <input
          ref="picker"
          type="file"
          hidden
          accept=".csv,.tsv,.txt,.xlsx"
          aria-label="File of prices and receipts"
          @change="bringIn"
        />
        <v-btn size="small" :href="file('parts.xlsx')" download>XLSX</v-btn>
        <v-btn size="small" :href="file('parts.csv')" download>CSV</v-btn>
      </div>
    </div>
    <PartsTableDialog
      :table="table"
      :variant-id="variantId"
      :busy="busy"
      :enter="enter"
      :price="price"
      @close="table = null"
    />
    <template v-for="group in groups" :key="group.name">
      <h2>{{ group.name }}</h2>
      <ul class="lines">
        <li v-for="line in group.lines" :key="line.key" :class="{ got: !open(line) }">
          <div class="what">
            <strong>{{ open(line) ? "☐" : "☑" }} {{ line.what }}</strong>
            <small>{{ line.purpose }}</small>
            <small v-if="line.check" class="text-info">Check on delivery: {{ line.check }}</small>
            <small v-if="line.instead">If not to be had: {{ line.instead }}</small>
          </div>
          <p class="need">
            <strong>{{ count(line.needed, line.unit) }}</strong>
            <small>needed</small>
          </p>
          <p class="need">
            <strong>{{ count(line.to_buy, line.unit) }}</strong>
            <small>to buy</small>
          </p>
          <NumberField
            class="price"
            label="Price each"
            :unit="parts.currency"
            :value="line.price"
            :save="(value) => keep(line, { price: value })"
            optional
          />
          <NumberField
            class="received"
            label="Received"
            :unit="line.unit || 'pcs'"
            :value="here(line.key)"
            :save="(value) => receive(line, value)"
            optional
          />
          <v-btn
            v-if="open(line)"
            size="small"
            :aria-label="`All of ${line.what} received`"
            @click="receive(line, line.needed)"
          >
            All here
          </v-btn>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.lines {
  list-style: none;
  padding: 0;
}
.lines li {
  display: grid;
  grid-template-columns: minmax(220px, 1fr) 80px 80px 120px 120px 92px;
  gap: 10px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
.got {
  opacity: 0.75;
}
.what small,
.need small {
  display: block;
}
.need {
  text-align: right;
}
@media (max-width: 959px) {
  .lines li {
    grid-template-columns: 1fr 1fr 1fr;
  }
  .what {
    grid-column: 1 / -1;
  }
  .received {
    grid-column: 1 / 3;
  }
}
</style>
