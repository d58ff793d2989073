<script setup lang="ts">
/** The size of a cable whose print has faded, from what can be measured on it. */
import { ref, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import NumberField from "@/shared/fields/NumberField.vue";

const props = defineProps<{ open: boolean }>();
const emit = defineEmits<{ close: []; take: [gauge: string] }>();
const notices = useNotices();
const EMPTY: Schemas["GaugeIn"] = {
  conductor_mm: null,
  outside_mm: null,
  strands: null,
  strand_mm: null,
};
const measured = ref({ ...EMPTY });
const found = ref<Schemas["GaugeReading"] | null>(null);

watch(
  () => props.open,
  () => {
    measured.value = { ...EMPTY };
    found.value = null;
  },
);

const put = (name: keyof Schemas["GaugeIn"]) => async (value: number | null) => {
  measured.value = { ...measured.value, [name]: value };
  const { conductor_mm, outside_mm, strands, strand_mm } = measured.value;
  if (!conductor_mm && !outside_mm && !(strands && strand_mm)) {
    found.value = null;
    return true;
  }
  try {
    found.value = await unwrap(api.POST("/api/gauge-reading", { body: measured.value }));
    return true;
  } catch (error) {
    notices.failed(error);
    return false;
  }
};
</script>

<template>
  <v-dialog
    :model-value="open"
    max-width="640"
    aria-label="Which size is it?"
    @update:model-value="emit('close')"
  >
    <v-card title="Which size is it?">
      <v-card-text>
        <p class="care">
          Measure with the cable dead: chargers off, sun covered, negative off first. A caliper, no
          force.
        </p>
        <div class="fields">
          <NumberField
            label="Bare copper, over all strands"
            unit="mm"
            :value="measured.conductor_mm"
            :save="put('conductor_mm')"
            optional
          />
          <NumberField
            label="Or over the insulation"
            unit="mm"
            :value="measured.outside_mm"
            :save="put('outside_mm')"
            optional
          />
          <NumberField
            label="Or strands"
            :value="measured.strands"
            :save="put('strands')"
            optional
          />
          <NumberField
            label="and one strand"
            unit="mm"
            :value="measured.strand_mm"
            :save="put('strand_mm')"
            optional
          />
        </div>
        <template v-if="found">
          <p v-for="line in found.working" :key="line">{{ line }}</p>
          <div class="guesses">
            <v-btn
              v-for="guess in found.guesses"
              :key="guess.gauge"
              size="large"
              :variant="guess.gauge === found.careful ? 'flat' : 'outlined'"
              :color="guess.gauge === found.careful ? 'secondary' : undefined"
              @click="emit('take', guess.gauge)"
            >
              {{ guess.gauge }} · {{ guess.area_mm2 }} mm²
              {{ guess.likely ? "" : "(unlikely)" }}
            </v-btn>
          </div>
          <p>When in doubt take the smaller: {{ found.careful }}.</p>
          <p class="source">{{ found.source }}</p>
        </template>
      </v-card-text>
      <v-card-actions><v-btn @click="emit('close')">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.guesses {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 10px 0;
}
</style>
