<script setup lang="ts">
import type { Schemas } from "@/api/client";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import NumberField from "@/shared/fields/NumberField.vue";
import { amps, volts } from "@/shared/units";

defineProps<{ starts: Schemas["StartCheck"][] }>();

const surveys = useSurvey();
const schemes = useScheme();
const { field } = useEdits();
const nameOf = (id: string | null | undefined) =>
  schemes.parts.find((part) => part.id === id)?.name ?? "no bank";
const holds = (check: Schemas["StartCheck"]) =>
  check.volts_v != null && check.volts_v >= check.limit_v;
</script>

<template>
  <section v-if="surveys.survey" aria-label="Start bank" class="block">
    <div class="fields">
      <NumberField
        label="Coldest morning to start on"
        unit="°C"
        :value="surveys.survey.boat.coldest_c"
        :save="field('boat', 'coldest_c')"
        nullable
      />
      <NumberField
        label="A start takes"
        unit="s"
        :value="surveys.survey.sizing.crank_s"
        :save="field('sizing', 'crank_s')"
      />
    </div>
    <p v-if="!starts.length">No starter in this variant.</p>
    <article v-for="check in starts" :key="check.starter" class="card">
      <h3>
        {{ nameOf(check.bank) }} turns {{ nameOf(check.starter) }} at {{ check.coldest_c }} °C
      </h3>
      <div class="numbers">
        <p>
          <span class="big" :class="holds(check) ? 'text-success' : 'text-error'">
            {{ holds(check) ? "✓" : "▲" }} {{ volts(check.volts_v) }}
          </span>
          at the starter; {{ volts(check.limit_v) }} wanted
        </p>
        <p>
          <span class="big">{{ amps(check.available_a) }}</span> there by the label;
          {{ amps(check.need_a) }} needed
        </p>
        <p>
          <span class="big">{{ check.starts ?? "–" }}</span>
          {{ check.starts === 1 ? "start" : "starts" }} in reserve
        </p>
      </div>
      <p v-if="check.missing.length" class="text-info">
        <strong>? To find out:</strong> {{ check.missing.join("; ") }}
      </p>
      <p v-if="check.estimated.length" class="text-warning">
        <strong>◆ Estimated lengths decide here:</strong> {{ check.estimated.join("; ") }}
      </p>
      <details>
        <summary>Arithmetic</summary>
        <ul class="arithmetic">
          <li v-for="line in check.working" :key="line">{{ line }}</li>
        </ul>
        <p class="source">{{ check.source }}</p>
      </details>
    </article>
  </section>
</template>

<style scoped>
.numbers {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 34px;
  margin: 6px 0;
}
.big {
  display: block;
  font-size: 1.8rem;
  font-weight: 800;
  line-height: 1.15;
}
</style>
