<script setup lang="ts">
/** Puts a part into the variant, landed where it usually is. */
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import PickField from "@/shared/fields/PickField.vue";

type Kind = Schemas["FoundIn"]["kind"];
const props = withDefaults(defineProps<{ kinds: Kind[]; title?: string }>(), {
  title: "Found another?",
});

const WORDS: Record<Kind, { add: string; name: string; note: string }> = {
  bank: { add: "a bank", name: "Bank", note: "joined by its negative" },
  charger: { add: "a shore charger", name: "Shore charger", note: "on the posts of the bank" },
  solar: { add: "a solar panel", name: "Solar", note: "on the posts of the bank" },
  alternator: {
    add: "a second alternator",
    name: "Alternator 2",
    note: "on the posts of the bank",
  },
  switch: { add: "an on/off switch", name: "Battery switch", note: "in the positive of the bank" },
  relay: {
    add: "a combining relay",
    name: "Combining relay",
    note: "between the bank and the engine bank",
  },
  isolator: {
    add: "an isolator",
    name: "Isolator",
    note: "behind the alternator: its first output to what was there, its second to the bank",
  },
  dcdc: {
    add: "a dc-dc charger",
    name: "Dc-dc charger",
    note: "from the engine bank to the bank",
  },
  generator: {
    add: "a wind generator",
    name: "Wind generator",
    note: "on the posts of the bank",
  },
  one_way: {
    add: "a one-way combiner",
    name: "One-way combiner",
    note: "from the engine bank to the bank",
  },
  inverter: { add: "an inverter", name: "Inverter", note: "on the posts of the bank" },
  feed: { add: "a feed straight from a bank", name: "Feed", note: "on the posts of the bank" },
};

const schemes = useScheme();
const surveys = useSurvey();
const notices = useNotices();
const bank = ref<string | null>(null);
const place = ref<string | null>(null);
const banks = computed(() =>
  schemes.parts.filter((p) => p.kind === "bank").map((p) => ({ value: p.id, title: p.name })),
);
const on = computed(() => bank.value ?? banks.value.at(-1)?.value ?? null);
const places = computed(() =>
  (surveys.survey?.places ?? []).map((p) => ({ value: p.id, title: p.name })),
);
const landing = computed(() => props.kinds.some((kind) => kind !== "bank"));

async function add(kind: Kind) {
  const names = new Set(schemes.parts.map((part) => part.name));
  const usual = WORDS[kind].name;
  let name = usual;
  for (let n = 2; names.has(name); n++) name = `${usual} ${n}`;
  const found = { kind, name, place: place.value, bank: kind === "bank" ? null : on.value };
  if (await schemes.addFound(found)) notices.said(`Put in ${name}: read its figures off it.`);
}
</script>

<template>
  <div class="card found">
    <h3>{{ title }}</h3>
    <div class="fields">
      <PickField
        v-if="landing"
        label="It is on"
        :value="on"
        :picks="banks"
        :save="(v) => !!(bank = v as string)"
      />
      <PickField
        label="Place"
        :value="place"
        :picks="places"
        :save="(v) => ((place = v as string | null), true)"
        nullable
      />
    </div>
    <div class="kinds">
      <v-btn v-for="kind in kinds" :key="kind" :title="WORDS[kind].note" @click="add(kind)">
        Put in {{ WORDS[kind].add }}
      </v-btn>
    </div>
    <p>Its cables are put in with it, their lengths estimated until they are measured.</p>
  </div>
</template>

<style scoped>
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 8px;
}
</style>
