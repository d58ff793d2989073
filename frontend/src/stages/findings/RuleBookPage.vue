<script setup lang="ts">
/** Every rule: what it checks, its figures, where they are published, what it found here. */
import { computed, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import type { Key } from "@/app/keys";
import { useReport } from "@/documents/useReport";
import { SEVERITIES } from "@/shared/severity";
import { STAGE_NAMES } from "@/stages/frame/findings";
import StageFrame from "@/stages/frame/StageFrame.vue";

defineProps<{ jobId: string; variantId: string }>();

const { report } = useReport<Schemas["RulesOut"]>("rules", (variant) =>
  unwrap(
    api.GET("/api/variants/{variant_id}/rules", { params: { path: { variant_id: variant } } }),
  ),
);
const asked = ref("");
const onlyFound = ref(false);
const FAMILIES: Record<string, string> = {
  OC: "Overcurrent protection",
  CO: "Conductors",
  SW: "Switching",
  CH: "Charging",
  BA: "Banks",
  PL: "Place",
  BU: "Building",
};
const families = computed(() => {
  const words = asked.value.toLowerCase();
  const rules = (report.value?.rules ?? []).filter(
    (rule) =>
      (!onlyFound.value || rule.found.length) &&
      `${rule.id} ${rule.title} ${rule.checks} ${rule.source}`.toLowerCase().includes(words),
  );
  return Object.entries(FAMILIES)
    .map(([id, name]) => ({ name, rules: rules.filter((rule) => rule.id.startsWith(id)) }))
    .filter((family) => family.rules.length);
});
const keys: Key[] = [];
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="runs" :keys="keys">
    <div class="book">
      <header>
        <h1>Rule book</h1>
        <input v-model="asked" type="search" placeholder="Find a rule" aria-label="Find a rule" />
        <label>
          <input v-model="onlyFound" type="checkbox" /> Only rules that found something here
        </label>
        <v-btn size="small" variant="text" :to="{ name: 'report', params: { jobId, variantId } }">
          Report
        </v-btn>
      </header>
      <v-progress-linear v-if="!report" indeterminate aria-label="Reading the rules" />
      <p v-else>
        {{ report.rules.length }} rules. Standards are told in our own words; of every figure:
        <strong>{{ report.confirm }}</strong>.
      </p>
      <section v-for="family in families" :key="family.name">
        <h2>{{ family.name }}</h2>
        <article v-for="rule in family.rules" :id="rule.id" :key="rule.id">
          <h3>
            <span class="id">{{ rule.id }}</span> {{ rule.title }}
            <small>{{ STAGE_NAMES[rule.stage] }}</small>
          </h3>
          <p>{{ rule.checks }}</p>
          <ul v-if="rule.figures.length" class="figures">
            <li v-for="figure in rule.figures" :key="figure.label">
              {{ figure.label }}: <strong>{{ figure.value }} {{ figure.unit }}</strong>
            </li>
          </ul>
          <p class="source">{{ rule.source }}</p>
          <ul v-if="rule.found.length" class="found">
            <li
              v-for="finding in rule.found"
              :key="finding.key + finding.title"
              :class="`text-${SEVERITIES[finding.severity].color}`"
            >
              {{ SEVERITIES[finding.severity].mark }} {{ SEVERITIES[finding.severity].word }}:
              {{ finding.title }}
            </li>
          </ul>
          <p v-else class="met">✓ nothing found in this variant</p>
        </article>
      </section>
    </div>
  </StageFrame>
</template>

<style scoped>
.book {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 8px 16px 32px;
}
.book > * {
  max-width: 980px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 16px;
}
h1 {
  font-size: 1.45rem;
}
header input[type="search"] {
  min-height: 40px;
  padding: 0 10px;
  font: inherit;
  color: rgb(var(--v-theme-on-surface));
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-ink), 0.35);
  border-radius: 6px;
}
header label {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 40px;
}
h2 {
  font-size: 1.15rem;
  margin: 16px 0 6px;
}
article {
  padding: 8px 12px;
  margin-bottom: 8px;
  border: 1px solid rgb(var(--v-theme-ink), 0.22);
  border-radius: 8px;
  background: rgb(var(--v-theme-surface));
}
h3 {
  font-size: 1.02rem;
}
.id {
  display: inline-block;
  min-width: 62px;
  font-weight: 800;
  color: rgb(var(--v-theme-secondary));
}
small {
  font-weight: 400;
  margin-left: 8px;
}
.figures {
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 22px;
  list-style: none;
}
.source {
  font-size: 0.84rem;
  font-style: italic;
}
.found {
  padding-left: 4px;
  list-style: none;
  font-weight: 600;
}
.met {
  color: rgb(var(--v-theme-success));
}
</style>
