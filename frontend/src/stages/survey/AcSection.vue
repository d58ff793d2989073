<script setup lang="ts">
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import PickField from "@/shared/fields/PickField.vue";

const props = defineProps<{ items: Schemas["AcItemAsked"][] }>();

const surveys = useSurvey();
const { field } = useEdits();
const seen = computed(() => surveys.survey?.ac_checks ?? {});
const looked = computed(() => props.items.filter((item) => seen.value[item.id]).length);
const ANSWERS = [
  { value: "yes", title: "✓ Yes" },
  { value: "no", title: "▲ No" },
];
</script>

<template>
  <section aria-label="AC and bonding" class="block">
    <h2>AC and bonding: {{ looked }} of {{ items.length }} looked at</h2>
    <p class="text-error">
      <strong>▲ Mains voltage.</strong> Strom does not design the AC side. Pull the shore lead
      before a cover is opened; a licensed electrician looks and decides.
    </p>
    <p v-if="!items.length">No shore charger and no inverter in this variant: nothing to ask.</p>
    <ul class="checks">
      <li v-for="item in items" :key="item.id">
        <div class="asked">
          <strong>{{ item.item }}</strong>
          <small>{{ item.why }}</small>
        </div>
        <PickField
          label="So aboard"
          :aria-label="item.item"
          :value="seen[item.id]"
          :picks="ANSWERS"
          :save="field('ac_checks', item.id)"
          none="Not looked at"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.checks {
  list-style: none;
  padding: 0;
}
.checks li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 170px;
  gap: 4px 16px;
  align-items: end;
  padding: 8px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
.asked small {
  display: block;
}
@media (max-width: 600px) {
  .checks li {
    grid-template-columns: 1fr;
  }
}
</style>
