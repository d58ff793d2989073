<script setup lang="ts">
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import { SEVERITIES, type Severity } from "@/shared/severity";

import { usePicking } from "@/stages/scheme/picking";
import { useScheme } from "@/documents/schemeStore";

type Finding = Schemas["Finding"];

const emit = defineEmits<{ shown: [] }>();
const schemes = useScheme();
const picking = usePicking();
const opened = ref<Set<string>>(new Set());
const shown = ref<Severity | null>(null);

const all = computed(() => schemes.findings?.findings ?? []);
const counts = computed(() =>
  (Object.keys(SEVERITIES) as Severity[])
    .map((severity) => ({
      severity,
      count: all.value.filter((f) => f.severity === severity).length,
    }))
    .filter((item) => item.count > 0),
);
const listed = computed(() =>
  all.value.filter((f) => shown.value === null || f.severity === shown.value),
);

function key(finding: Finding): string {
  return `${finding.rule} ${finding.title}`;
}

function toggle(finding: Finding) {
  const next = new Set(opened.value);
  if (!next.delete(key(finding))) next.add(key(finding));
  opened.value = next;
}

function show(finding: Finding) {
  const first = finding.parts[0];
  if (!first) return;
  const cable = schemes.scheme?.design.cables.some((c) => c.id === first);
  picking.pick(cable ? "cable" : "part", first);
  emit("shown");
}

function repair(finding: Finding) {
  if (finding.change) void schemes.change({ ...finding.change });
}
</script>

<template>
  <div class="findings">
    <div v-if="counts.length" class="counts" role="group" aria-label="Show one severity">
      <button
        v-for="item in counts"
        :key="item.severity"
        type="button"
        :class="[`text-${SEVERITIES[item.severity].color}`, { on: shown === item.severity }]"
        :aria-pressed="shown === item.severity"
        @click="shown = shown === item.severity ? null : item.severity"
      >
        {{ SEVERITIES[item.severity].mark }} {{ item.count }} {{ SEVERITIES[item.severity].word }}
      </button>
    </div>
    <p v-if="schemes.findings && !all.length" class="none">
      No findings among the rules that are checked so far.
    </p>
    <article
      v-for="finding in listed"
      :key="key(finding)"
      class="finding"
      :class="`border-${SEVERITIES[finding.severity].color}`"
    >
      <header :class="`text-${SEVERITIES[finding.severity].color}`">
        <span>{{ SEVERITIES[finding.severity].mark }} {{ SEVERITIES[finding.severity].word }}</span>
        <span class="rule">{{ finding.rule }}</span>
      </header>
      <h3>{{ finding.title }}</h3>
      <p>{{ finding.why }}</p>
      <p v-if="finding.missing" class="missing"><strong>Find out:</strong> {{ finding.missing }}</p>
      <p v-if="finding.estimated?.length" class="missing">
        <strong>◆ Estimated lengths decide here:</strong> {{ finding.estimated.join("; ") }}
      </p>
      <div v-if="opened.has(key(finding))" class="working">
        <h4>Arithmetic</h4>
        <p v-for="line in finding.arithmetic" :key="line">{{ line }}</p>
        <h4>Limit</h4>
        <p>{{ finding.limit }}</p>
        <h4>Published in</h4>
        <p>{{ finding.source }}</p>
        <h4>Repair</h4>
        <p>{{ finding.repair }}</p>
      </div>
      <footer>
        <v-btn
          v-if="finding.change"
          size="small"
          color="secondary"
          variant="flat"
          :disabled="schemes.busy"
          :title="finding.repair"
          @click="repair(finding)"
        >
          Apply the repair
        </v-btn>
        <v-btn
          size="small"
          variant="text"
          :aria-expanded="opened.has(key(finding))"
          @click="toggle(finding)"
        >
          {{ opened.has(key(finding)) ? "Less" : "Arithmetic" }}
        </v-btn>
        <v-btn size="small" variant="text" @click="show(finding)">Show</v-btn>
      </footer>
    </article>
    <p class="caution">
      These checks do not replace the local code, the makers' manuals or a licensed practitioner.
      Figures of standards: {{ schemes.findings?.confirm ?? "confirm in the edition in force" }}.
    </p>
  </div>
</template>

<style scoped>
.findings {
  padding: 10px 12px 24px;
}
.counts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-bottom: 10px;
}
.counts button {
  border: 1.5px solid currentColor;
  border-radius: 99px;
  padding: 3px 10px;
  min-height: 32px;
  font-weight: 700;
  font-size: 0.88rem;
}
.counts .on {
  background: rgb(var(--v-theme-surface-variant));
}
.finding {
  border: 1px solid rgb(var(--v-theme-ink), 0.25);
  border-radius: 10px;
  padding: 10px 12px 6px;
  margin-bottom: 10px;
  background: rgb(var(--v-theme-surface));
}
.border-error {
  border-left: 7px solid rgb(var(--v-theme-error));
}
.border-warning {
  border-left: 7px solid rgb(var(--v-theme-warning));
}
.border-info {
  border-left: 7px solid rgb(var(--v-theme-info));
}
.border-success {
  border-left: 7px solid rgb(var(--v-theme-success));
}
header {
  display: flex;
  justify-content: space-between;
  font-weight: 800;
  text-transform: capitalize;
}
.rule {
  color: rgb(var(--v-theme-on-surface));
  font-weight: 600;
}
h3 {
  font-size: 1.02rem;
  line-height: 1.25;
  margin: 4px 0;
}
.working {
  border-top: 1px dashed rgb(var(--v-theme-ink), 0.4);
  margin-top: 8px;
  padding-top: 4px;
}
h4 {
  font-size: 0.85rem;
  margin-top: 6px;
}
.working p {
  margin-bottom: 3px;
}
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 4px;
  margin-top: 6px;
}
.caution {
  font-size: 0.85rem;
  margin-top: 12px;
}
</style>
