<script setup lang="ts">
/** Puts a part into the variant, landed where it usually is. */
import { computed, ref } from "vue";

import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import { foundAs } from "@/parts/kinds";
import PickField from "@/shared/fields/PickField.vue";

const props = withDefaults(defineProps<{ kinds: string[]; title?: string }>(), {
  title: "Found another?",
});

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

async function add(kind: string) {
  const names = new Set(schemes.parts.map((part) => part.name));
  const usual = foundAs(kind).name;
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
      <v-btn v-for="kind in kinds" :key="kind" :title="foundAs(kind).note" @click="add(kind)">
        Put in {{ foundAs(kind).words }}
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
