<script lang="ts">
/** What lies on the path that is followed, and the piece at hand. */
export interface Followed {
  ids: Set<string>;
  at: string;
}
</script>
<script setup lang="ts">
/** One path at a time, from its giver to its taker and back: a piece after another. */
import { computed, ref, watch } from "vue";

import { useScheme } from "@/documents/schemeStore";
import { useRuns } from "@/stages/runs/runs";
import { amps, length, lostVolts } from "@/shared/units";

import { usePicking } from "./picking";

const emit = defineEmits<{ at: [followed: Followed | null] }>();

const schemes = useScheme();
const picking = usePicking();
const { report } = useRuns();
const paths = computed(() => report.value?.report.paths ?? []);
const chosen = ref("");
const n = ref(0);
const path = computed(() => paths.value.find((one) => one.id === chosen.value) ?? paths.value[0]);
const steps = computed(() => path.value?.steps ?? []);
/** The piece at hand; a path that has become shorter ends earlier. */
const at = computed(() => Math.min(n.value, steps.value.length - 1));
const step = computed(() => steps.value[at.value]);
const ids = computed(
  () => new Set(steps.value.flatMap(({ cable, parts }) => (cable ? [cable, ...parts] : parts))),
);

function choose(event: Event) {
  chosen.value = (event.target as HTMLSelectElement).value;
  n.value = 0;
}
watch(
  [step, ids],
  () => {
    const id = step.value?.cable ?? step.value?.parts[0];
    if (!id) return emit("at", null);
    picking.side = sideOf(id);
    emit("at", { ids: ids.value, at: id });
  },
  { immediate: true },
);

/** The side of the drawing that shows a piece; the one in sight where both do. */
function sideOf(id: string): "pos" | "neg" {
  const shows = (side: "positive" | "negative") => {
    const layout = schemes.scheme?.[side];
    return layout?.wires.some((w) => w.id === id) || layout?.boxes.some((b) => b.id === id);
  };
  if (shows(picking.side === "pos" ? "positive" : "negative")) return picking.side;
  return shows("positive") ? "pos" : "neg";
}
</script>

<template>
  <section class="follow" aria-label="Follow a path">
    <label v-if="paths.length" class="ask">
      <span class="d-sr-only">Path</span>
      <select :value="path?.id" aria-label="Path" @change="choose">
        <option v-for="one in paths" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
    </label>
    <template v-if="path && step">
      <v-btn class="turn" :disabled="at === 0" @click="n = at - 1">Back</v-btn>
      <p role="status">
        <strong>{{ step.name }}</strong>
        <span>
          {{ at + 1 }} of {{ steps.length }}, {{ step.side }} ·
          {{ amps(Math.abs(step.current_a)) }} · loses {{ lostVolts(step.drop_v) }}
          <template v-if="step.cable"> · {{ length(step.length_m) }}</template>
        </span>
      </p>
      <v-btn class="turn" :disabled="at >= steps.length - 1" @click="n = at + 1">Next</v-btn>
    </template>
    <p v-if="path" class="state">Computed for: {{ path.state }}.</p>
    <p v-else-if="report">No path from a bank or a source in this variant.</p>
  </section>
</template>

<style scoped>
.follow {
  display: grid;
  grid-template-columns: minmax(180px, 300px) auto minmax(0, 1fr) auto;
  gap: 4px 12px;
  align-items: center;
  padding: 4px 12px;
}
.turn {
  min-height: 48px;
}
strong,
span {
  display: block;
  line-height: 1.2;
}
.state {
  grid-column: 1 / -1;
  font-size: 0.86rem;
}
@media (max-width: 959px) {
  .follow {
    grid-template-columns: auto minmax(0, 1fr) auto;
  }
  .ask {
    grid-column: 1 / -1;
  }
}
</style>
