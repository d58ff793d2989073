<script setup lang="ts">
import { mdiClose } from "@mdi/js";
import { computed } from "vue";

import { ampHours, amps, length, percent, volts } from "@/shared/units";

import { useBench } from "./benchStore";
import { usePicking } from "./picking";
import { useScheme } from "@/documents/schemeStore";

const schemes = useScheme();
const bench = useBench();
const picking = usePicking();

const point = computed(() => bench.result?.point);
const cable = computed(() => {
  const at = picking.picked;
  if (at?.kind !== "cable") return null;
  return schemes.scheme?.design.cables.find((c) => c.id === at.id) ?? null;
});
const known = computed(() =>
  schemes.scheme?.cable_lengths.find((found) => found.cable === cable.value?.id),
);
const part = computed(() => {
  const at = picking.picked;
  if (at?.kind !== "part") return null;
  return schemes.scheme?.design.components.find((p) => p.id === at.id) ?? null;
});
const onPart = computed(
  () =>
    schemes.scheme?.design.cables.filter((c) =>
      [c.start, c.end].some((ref) => ref.startsWith(`${part.value?.id}.`)),
    ) ?? [],
);
const posts = computed(() =>
  Object.keys(schemes.scheme?.post_names ?? {}).filter((ref) => {
    const own = ref.startsWith(`${part.value?.id}.`);
    return own && (part.value?.kind !== "bus_bar" || ref.endsWith(".s1"));
  }),
);
const charge = computed(() => {
  if (part.value?.kind !== "bank") return 0;
  return bench.state.soc?.[part.value.id] ?? part.value.soc;
});

function post(ref: string): string {
  return schemes.scheme?.post_names[ref] ?? ref;
}
</script>

<template>
  <aside v-if="cable || part" class="sheet" aria-label="Picked">
    <header>
      <h3>{{ cable ? schemes.scheme?.cable_names[cable.id] : part?.name }}</h3>
      <v-btn :icon="mdiClose" size="small" aria-label="Put down" @click="picking.drop()" />
    </header>
    <template v-if="cable">
      <p class="now">
        {{ amps(Math.abs(point?.conductor_a[cable.id] ?? 0)) }}
        <span>drop {{ volts(point?.conductor_drop_v[cable.id] ?? 0) }}</span>
      </p>
      <p>
        {{ cable.gauge }} · {{ length(cable.length_m) }} one way · {{ cable.insulation_c }} °C
        insulation
      </p>
      <p v-if="cable.estimated" class="text-warning">
        <strong>◆ length estimated</strong>: measure its run on the stage Survey
      </p>
      <p v-else-if="known?.how === 'run'">length by the measured run</p>
      <template v-if="picking.moving">
        <p><strong>Pick the post</strong> on the drawing or here.</p>
        <p class="care">
          Aboard: chargers off, solar covered, negative off first, before any cable is moved.
        </p>
        <ul class="posts">
          <li v-for="ref in picking.moving.posts" :key="ref">
            <v-btn size="small" block @click="picking.moveTo(ref)">{{ post(ref) }}</v-btn>
          </li>
        </ul>
        <v-btn variant="text" @click="picking.drop()">Leave it where it is</v-btn>
      </template>
      <div v-else class="ends">
        <v-btn @click="picking.startMove(cable.id, 'start')">
          Move the end at {{ post(cable.start) }}
        </v-btn>
        <v-btn @click="picking.startMove(cable.id, 'end')">
          Move the end at {{ post(cable.end) }}
        </v-btn>
      </div>
    </template>
    <template v-else-if="part">
      <template v-if="part.kind === 'bank'">
        <label class="charge">
          State of charge on the bench: <strong>{{ percent(charge) }}</strong>
          <input
            type="range"
            min="0"
            max="1"
            step="0.01"
            :value="charge"
            @input="bench.setCharge(part.id, Number(($event.target as HTMLInputElement).value))"
          />
        </label>
        <p>
          {{ part.parallel }} × {{ ampHours(part.unit_ah) }} in parallel, {{ part.series }} in
          series, {{ part.unit_cca_a ? `${part.unit_cca_a} A CCA each` : "CCA not known" }},
          {{ part.temperature_c }} °C
        </p>
      </template>
      <table>
        <tbody>
          <tr v-for="ref in posts" :key="ref">
            <th scope="row">{{ post(ref) }}</th>
            <td>{{ volts(point?.post_v[ref]) }}</td>
          </tr>
        </tbody>
      </table>
      <h4>Cables on it</h4>
      <ul class="posts">
        <li v-for="c in onPart" :key="c.id">
          <v-btn size="small" variant="text" @click="picking.pick('cable', c.id)">
            {{ c.gauge }}: {{ schemes.scheme?.cable_names[c.id] }}
          </v-btn>
        </li>
      </ul>
    </template>
  </aside>
</template>

<style scoped>
.sheet {
  overflow-y: auto;
  padding: 10px 14px 12px;
  margin: 8px;
  border: 2px solid rgb(var(--v-theme-secondary));
  border-radius: 12px;
  background: rgb(var(--v-theme-surface));
  color: rgb(var(--v-theme-on-surface));
}
@media (max-width: 959px) {
  .sheet {
    position: absolute;
    inset: auto 0 0;
    max-height: 55%;
    box-shadow: 0 0 18px rgb(0 0 0 / 0.3);
  }
}
header {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
h3 {
  font-size: 1.05rem;
}
.now {
  font-size: 1.5rem;
  font-weight: 800;
}
.now span {
  font-size: 1rem;
  font-weight: 600;
  margin-left: 10px;
}
.ends {
  display: flex;
  flex-direction: column;
  gap: 6px;
  margin-top: 8px;
}
.ends .v-btn,
.posts .v-btn {
  justify-content: flex-start;
  height: auto;
  min-height: 40px;
  padding: 6px 10px;
  white-space: normal;
  text-align: left;
}
:deep(.v-btn__content) {
  white-space: normal;
}
.posts {
  list-style: none;
  padding: 0;
}
.posts li {
  margin-top: 4px;
}
.charge input {
  width: 100%;
  height: 30px;
}
table {
  width: 100%;
  margin-top: 6px;
}
th {
  text-align: left;
  font-weight: 500;
}
td {
  text-align: right;
  font-weight: 700;
}
</style>
