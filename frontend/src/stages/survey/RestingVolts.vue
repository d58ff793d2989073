<script setup lang="ts">
/** A bank's resting volts, and what they honestly tell of its charge. */
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import { useSession } from "@/app/session";
import { useScheme, type Part } from "@/documents/schemeStore";
import { useEdits } from "@/documents/useEdits";
import { useSurvey } from "@/documents/surveyStore";
import NumberField from "@/shared/fields/NumberField.vue";
import { today } from "@/shared/today";
import { hours, percent, volts } from "@/shared/units";

const props = defineProps<{
  bank: Extract<Part, { kind: "bank" }>;
  rests: Record<string, Schemas["RestEstimate"]>;
}>();

const surveys = useSurvey();
const schemes = useScheme();
const session = useSession();
const { addRow } = useEdits();
const rested = ref<number>(4);
const readings = computed(() =>
  (surveys.survey?.resting ?? []).filter((r) => r.bank === props.bank.id),
);

function add(measured: number | null) {
  if (measured === null) return false;
  return addRow("resting", `rest_${props.bank.id}`.slice(0, 30), {
    bank: props.bank.id,
    volts_v: measured,
    rested_h: rested.value,
    date: today(),
    by: session.session?.username ?? "unknown",
  });
}

function use(soc: number) {
  return schemes.change({ type: "set_part", part: props.bank.id, fields: { soc } });
}
</script>

<template>
  <div class="resting">
    <h4>Resting voltage</h4>
    <ul>
      <li v-for="reading in readings" :key="reading.id">
        <strong>{{ volts(reading.volts_v) }}</strong>
        after {{ hours(reading.rested_h) }}, {{ reading.date }}, {{ reading.by }}
        <template v-if="rests[reading.id]">
          <span v-if="rests[reading.id]?.refused" class="text-warning">
            ◆ no estimate: {{ rests[reading.id]?.refused }}
          </span>
          <template v-else>
            <strong class="soc">
              about {{ percent(rests[reading.id]?.soc ?? 0) }}, between
              {{ percent(rests[reading.id]?.low ?? 0) }} and
              {{ percent(rests[reading.id]?.high ?? 0) }}
            </strong>
            <v-btn size="small" @click="use(rests[reading.id]?.soc ?? 0)">
              Take {{ percent(rests[reading.id]?.soc ?? 0) }}
            </v-btn>
          </template>
          <details>
            <summary>Arithmetic</summary>
            <p v-for="line in rests[reading.id]?.working" :key="line">{{ line }}</p>
            <p class="source">{{ rests[reading.id]?.source }}</p>
          </details>
        </template>
        <v-btn size="small" variant="text" @click="surveys.remove('resting', reading.id)">
          Take out
        </v-btn>
      </li>
    </ul>
    <div class="new">
      <NumberField
        label="Rested for"
        unit="h"
        :value="rested"
        :save="(h) => ((rested = h ?? 0), true)"
      />
      <NumberField label="Volts at the posts" unit="V" :value="null" :save="add" />
      <p>
        On the bench it stands at <strong>{{ percent(bank.soc) }}</strong>
        <span v-if="bank.assumed.includes('soc')" class="text-warning"> ◆ assumed</span>
      </p>
    </div>
  </div>
</template>

<style scoped>
.resting {
  margin-top: 12px;
  border-top: 1px dashed rgb(var(--v-theme-ink), 0.4);
  padding-top: 6px;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  padding: 4px 0;
}
details {
  flex-basis: 100%;
  order: 9;
}
.soc {
  font-size: 1.05rem;
}
.new {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  align-items: end;
}
.new > .field {
  width: 150px;
}
</style>
