<script setup lang="ts">
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { useScheme, type Part } from "@/documents/schemeStore";
import { ampHours } from "@/shared/units";

import AddFound from "@/stages/frame/AddFound.vue";
import FigureFields from "@/parts/FigureFields.vue";
import RestingVolts from "./RestingVolts.vue";

defineProps<{ surveyed: Schemas["SurveyedOut"] | null }>();

const schemes = useScheme();
type Bank = Extract<Part, { kind: "bank" }>;
const banks = computed(() => schemes.parts.filter((p): p is Bank => p.kind === "bank"));
</script>

<template>
  <section aria-label="Banks as found" class="block">
    <p class="care">
      Take rings and bracelets off, cover the other posts; acid: goggles. Measure at the posts, with
      chargers off and the sun covered.
    </p>
    <article v-for="bank in banks" :key="bank.id" class="card" :aria-label="bank.name">
      <div class="card-head">
        <h3>{{ bank.name }}</h3>
        <strong v-if="surveyed?.banks[bank.id]">
          {{ surveyed.banks[bank.id]?.batteries }} × {{ bank.unit_v }} V
          {{ ampHours(bank.unit_ah) }}: together
          {{ ampHours(surveyed.banks[bank.id]?.capacity_ah ?? 0) }} at
          {{ surveyed.banks[bank.id]?.nominal_v }} V
        </strong>
      </div>
      <FigureFields :part="bank" />
      <RestingVolts :bank="bank" :rests="surveyed?.rests ?? {}" />
    </article>
    <AddFound :kinds="['bank']" />
  </section>
</template>
