<script setup lang="ts">
/** One finding: what, why, its arithmetic, its repair. */
import { ref } from "vue";

import { useScheme } from "@/documents/schemeStore";
import { SEVERITIES } from "@/shared/severity";

import type { Finding } from "./findings";

/** `plain`: to be read where it stands, neither shown on a drawing nor waived. */
const props = defineProps<{ finding: Finding; plain?: boolean }>();
const emit = defineEmits<{ show: []; waive: [] }>();

const schemes = useScheme();
const opened = ref(false);

function repair() {
  if (props.finding.change) void schemes.change({ ...props.finding.change });
}
</script>

<template>
  <article class="finding" :class="`border-${SEVERITIES[finding.severity].color}`">
    <header :class="`text-${SEVERITIES[finding.severity].color}`">
      <span>{{ SEVERITIES[finding.severity].mark }} {{ SEVERITIES[finding.severity].word }}</span>
      <span class="rule">{{ finding.rule }}</span>
    </header>
    <h3>{{ finding.title }}</h3>
    <p>{{ finding.why }}</p>
    <p v-if="finding.missing" class="missing"><strong>Find out:</strong> {{ finding.missing }}</p>
    <p v-if="finding.estimated?.length" class="missing">
      <strong>◆ Estimated lengths decide here:</strong>
      {{ finding.estimated.map((id) => schemes.scheme?.cable_names[id] ?? id).join("; ") }}
    </p>
    <div v-if="opened" class="working">
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
        @click="repair"
      >
        Apply the repair
      </v-btn>
      <v-btn size="small" variant="text" :aria-expanded="opened" @click="opened = !opened">
        {{ opened ? "Less" : "Arithmetic" }}
      </v-btn>
      <template v-if="!plain">
        <v-btn size="small" variant="text" @click="emit('show')">Show</v-btn>
        <v-btn size="small" variant="text" @click="emit('waive')">Waive</v-btn>
      </template>
    </footer>
  </article>
</template>

<style scoped>
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
</style>
