<script setup lang="ts">
/** Leads that are moved to other posts within a plan. */
import { computed, ref } from "vue";

import { useScheme } from "@/documents/schemeStore";
import PickField from "@/shared/fields/PickField.vue";
import TextField from "@/shared/fields/TextField.vue";

import { readClock, writeClock } from "./clock";
import type { Plan } from "./dayStore";
import { withLeads, type LeadMove } from "./planEdits";

const props = defineProps<{ plan: Plan; keep: (next: Plan) => Promise<boolean> }>();
const schemes = useScheme();
const picked = ref<number | null>(null);
const clockH = computed(() => props.plan.clock_h ?? 0);
const leads = computed(() => props.plan.leads ?? []);
const lead = computed(() => (picked.value === null ? null : (leads.value[picked.value] ?? null)));
const cables = computed(() =>
  Object.entries(schemes.scheme?.cable_names ?? {}).map(([value, title]) => ({ value, title })),
);
const posts = computed(() =>
  Object.entries(schemes.scheme?.post_names ?? {}).map(([value, title]) => ({ value, title })),
);

function setLead(fields: Partial<LeadMove>): Promise<boolean> {
  const next = leads.value.map((one, n) => (n === picked.value ? { ...one, ...fields } : one));
  return props.keep(withLeads(props.plan, next));
}

async function add() {
  const cable = schemes.scheme?.design.cables[0];
  if (!cable) return;
  const made: LeadMove = { at_h: 1, cable: cable.id, end: "end", to: cable.end };
  const next = withLeads(props.plan, [...leads.value, made]);
  await props.keep(next);
  picked.value = (next.leads ?? []).indexOf(made);
}

async function takeOut() {
  const gone = picked.value;
  picked.value = null;
  const left = leads.value.filter((_, n) => n !== gone);
  await props.keep(withLeads(props.plan, left));
}

function timed(text: string): false | Promise<boolean> {
  const hour = readClock(text, clockH.value);
  return hour === null ? false : setLead({ at_h: hour });
}
</script>

<template>
  <section aria-label="Leads that are moved">
    <v-btn size="small" variant="outlined" @click="add">+ Lead moved</v-btn>
    <ol v-if="plan.leads?.length" class="moves" aria-label="Moves of leads">
      <li v-for="(one, n) in plan.leads" :key="n">
        <v-btn size="small" :variant="picked === n ? 'flat' : 'tonal'" @click="picked = n">
          {{ writeClock(one.at_h, clockH) }}&ensp;{{
            schemes.scheme?.cable_names[one.cable] ?? one.cable
          }}
          → {{ schemes.scheme?.post_names[one.to] ?? one.to }}
        </v-btn>
      </li>
    </ol>
    <div v-if="lead" class="card" aria-label="Picked: a lead that is moved">
      <div class="card-head">
        <h3>A lead is moved</h3>
        <v-btn size="small" variant="text" @click="takeOut">Take out</v-btn>
      </div>
      <p class="care">
        Chargers off and the main switch open before a lead is taken off a battery.
      </p>
      <div class="fields">
        <TextField
          label="At (day hour:minute)"
          :value="writeClock(lead.at_h, clockH)"
          :save="timed"
        />
        <PickField
          label="Cable"
          :value="lead.cable"
          :picks="cables"
          :save="(v) => setLead({ cable: String(v) })"
        />
        <PickField
          label="Which end"
          :value="lead.end"
          :picks="[
            { value: 'start', title: 'its start' },
            { value: 'end', title: 'its end' },
          ]"
          :save="(v) => setLead({ end: v as LeadMove['end'] })"
        />
        <PickField
          label="To the post"
          :value="lead.to"
          :picks="posts"
          :save="(v) => setLead({ to: String(v) })"
        />
      </div>
    </div>
  </section>
</template>

<style scoped>
.moves {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 0;
  list-style: none;
}
.moves :deep(.v-btn) {
  height: auto;
  min-height: 32px;
  padding-block: 4px;
  max-width: 100%;
}
@media (max-width: 959px) {
  .moves :deep(.v-btn) {
    min-height: 48px;
  }
}
.moves :deep(.v-btn__content) {
  white-space: normal;
  text-align: left;
}
section {
  margin: 8px 0;
}
</style>
