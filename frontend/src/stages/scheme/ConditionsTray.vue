<script setup lang="ts">
import { computed } from "vue";

import { percent } from "@/shared/units";

import { useBench } from "./benchStore";
import TraySlider from "./TraySlider.vue";
import { useScheme } from "@/documents/schemeStore";

defineProps<{ selected: string | null }>();
const emit = defineEmits<{ select: [id: string] }>();

const bench = useBench();
const schemes = useScheme();

const NAMES: Record<string, string> = {
  off: "Off",
  on: "On",
  both: "Both",
  combine: "Combine",
  "1": "1",
  "2": "2",
};
const kinds = computed(() => new Set(schemes.scheme?.design.components.map((part) => part.kind)));
const parts = computed(() => schemes.scheme?.design.components ?? []);
const driven = computed(
  () => new Set(parts.value.map((part) => (part.kind === "generator" ? part.driven_by : ""))),
);
const shore = computed(() =>
  parts.value.some(
    (part) => part.kind === "charger" || (part.kind === "inverter" && part.charger_a != null),
  ),
);
const engines = computed(
  () =>
    new Set(
      parts.value.flatMap((part) =>
        part.kind === "alternator" || part.kind === "starter" ? [part.engine ?? "first"] : [],
      ),
    ).size,
);
const secondRuns = computed(() =>
  bench.state.second_engine === "as_first" ? running.value : bench.state.second_engine === "on",
);
const profiles = computed(() => [
  { title: "All loads off", value: null },
  ...(schemes.scheme?.design.profiles ?? []).map((p) => ({ title: p.name, value: p.id })),
]);
const running = computed(() => bench.state.engine === "on");

function turn(id: string, position: string) {
  emit("select", id);
  bench.turn(id, position);
}
</script>

<template>
  <section class="tray" aria-label="Conditions">
    <div v-if="kinds.has('alternator')" class="group">
      <h3>Engine <kbd>E</kbd></h3>
      <div class="row">
        <v-btn
          class="toggle"
          :color="running ? 'success' : undefined"
          :variant="running ? 'flat' : 'outlined'"
          :aria-pressed="running"
          @click="bench.set({ engine: running ? 'off' : 'on' })"
        >
          {{ running ? "Running" : "Start engine" }}
        </v-btn>
        <TraySlider
          label="Engine speed"
          :min="600"
          :max="3200"
          :step="50"
          :disabled="!running"
          :value="bench.state.rpm ?? 0"
          :words="`${bench.state.rpm} rpm`"
          @set="bench.set({ rpm: $event })"
        />
      </div>
    </div>
    <div v-if="engines > 1" class="group">
      <h3>Second engine</h3>
      <v-btn
        class="toggle"
        :color="secondRuns ? 'success' : undefined"
        :variant="secondRuns ? 'flat' : 'outlined'"
        :aria-pressed="secondRuns"
        @click="bench.set({ second_engine: secondRuns ? 'off' : 'on' })"
      >
        {{ secondRuns ? "Running" : "Start it" }}
      </v-btn>
    </div>
    <div v-if="shore" class="group">
      <h3>Shore lead <kbd>H</kbd></h3>
      <v-btn
        class="toggle"
        :color="bench.state.shore ? 'success' : undefined"
        :variant="bench.state.shore ? 'flat' : 'outlined'"
        :aria-pressed="bench.state.shore"
        @click="bench.set({ shore: !bench.state.shore })"
      >
        {{ bench.state.shore ? "Plugged in" : "Out" }}
      </v-btn>
    </div>
    <div v-if="kinds.has('solar')" class="group">
      <h3>Sun</h3>
      <TraySlider
        label="Sun"
        :min="0"
        :max="1"
        :step="0.05"
        :value="bench.state.sun ?? 0"
        :words="`${percent(bench.state.sun ?? 0)} of full sun`"
        @set="bench.set({ sun: $event })"
      />
    </div>
    <div v-if="driven.has('wind')" class="group">
      <h3>Wind</h3>
      <TraySlider
        label="Wind"
        :min="0"
        :max="40"
        :step="1"
        :value="bench.state.wind_kn ?? 0"
        :words="`${bench.state.wind_kn} kn`"
        @set="bench.set({ wind_kn: $event })"
      />
    </div>
    <div v-if="driven.has('water')" class="group">
      <h3>Boat speed</h3>
      <TraySlider
        label="Boat speed"
        :min="0"
        :max="12"
        :step="0.5"
        :value="bench.state.boat_kn ?? 0"
        :words="`${bench.state.boat_kn} kn`"
        @set="bench.set({ boat_kn: $event })"
      />
    </div>
    <div class="group">
      <h3>Life aboard <kbd>L</kbd></h3>
      <v-select
        :model-value="bench.state.profile"
        :items="profiles"
        aria-label="Life aboard"
        class="profile"
        @update:model-value="bench.set({ profile: $event })"
      />
    </div>
    <div
      v-for="part in bench.switches"
      :key="part.id"
      class="group switch"
      :class="{ selected: selected === part.id }"
    >
      <h3>
        {{ part.name }} <span v-if="selected === part.id"><kbd>[</kbd> <kbd>]</kbd></span>
      </h3>
      <div class="positions" role="radiogroup" :aria-label="part.name">
        <button
          v-for="position in part.positions"
          :key="position"
          type="button"
          role="radio"
          :aria-checked="bench.positionOf(part.id) === position"
          :class="{ on: bench.positionOf(part.id) === position }"
          @click="turn(part.id, position)"
        >
          {{ part.marks[position] ?? NAMES[position] ?? position }}
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.tray {
  display: flex;
  flex: none;
  gap: 6px 18px;
  padding: 5px 14px 7px;
  overflow-x: auto;
  background: rgb(var(--v-theme-tray));
  border-top: 1px solid rgb(var(--v-theme-ink), 0.25);
}
.group {
  flex: none;
}
h3 {
  font-size: 0.86rem;
  font-weight: 700;
  white-space: nowrap;
  min-height: 21px;
}
kbd {
  font-size: 0.72rem;
  border: 1px solid currentColor;
  border-radius: 4px;
  padding: 0 4px;
  opacity: 0.8;
}
.toggle {
  min-width: 104px;
  padding: 0 12px;
  height: 40px;
}
.profile {
  width: 142px;
}
.row {
  display: flex;
  gap: 12px;
}
.positions {
  display: flex;
  width: fit-content;
  border: 1.5px solid rgb(var(--v-theme-ink), 0.6);
  border-radius: 10px;
  overflow: hidden;
  background: rgb(var(--v-theme-surface));
}
.positions button {
  min-width: 44px;
  height: 42px;
  padding: 0 9px;
  font-weight: 600;
  color: rgb(var(--v-theme-on-surface));
}
.positions button:focus-visible {
  outline-offset: -4px;
}
.positions button + button {
  border-left: 1px solid rgb(var(--v-theme-ink), 0.3);
}
.positions .on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-on-primary));
  font-weight: 800;
}
.selected h3 {
  text-decoration: underline;
  text-underline-offset: 3px;
}
@media (max-width: 959px) {
  .tray {
    flex-wrap: wrap;
    max-height: 42dvh;
    overflow-y: auto;
  }
  .positions button {
    min-width: 48px;
    height: 48px;
  }
}
</style>
