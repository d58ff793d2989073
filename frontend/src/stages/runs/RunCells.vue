<script setup lang="ts">
/** One run in the table; on a phone its cells stand in three lines. */
import { computed } from "vue";

import { amps, finePercent, volts } from "@/shared/units";

import { ROW_PX, VERDICTS, type Fields, type RunRow } from "./runs";

const props = defineProps<{
  row: RunRow;
  index: number;
  gauges: string[];
  picked: boolean;
  wide: boolean;
}>();
const emit = defineEmits<{
  pick: [];
  length: [cable: string, text: string];
  set: [fields: Fields];
}>();

const verdict = computed(() => VERDICTS[props.row.verdict]);
const out = computed(() => props.row.legs.find((leg) => leg.side === "out"));
const back = computed(() => props.row.legs.find((leg) => leg.side === "back"));
const legs = computed(() => [
  { name: "out", leg: out.value },
  { name: "back", leg: back.value },
]);
const sizes = computed(() => [...new Set([props.row.gauge, ...props.gauges])]);
const unequal = computed(() => new Set(props.row.legs.map((leg) => leg.gauge)).size > 1);
const device = computed(() => {
  const { device_name, device_a, device_m, exempt } = props.row;
  if (!device_name) return exempt ? "exempt" : out.value ? "none" : "–";
  const far = device_m == null ? "" : ` at ${device_m.toFixed(2)} m`;
  return `${device_a} A${far}`;
});
const inVolts = computed(() => props.row.path?.startsWith("cranking") ?? false);
const lost = computed(() =>
  inVolts.value ? volts(props.row.path_v) : finePercent(props.row.path_percent),
);
const allowed = computed(() =>
  inVolts.value ? volts(props.row.limit_v) : finePercent(props.row.limit_percent),
);
const chosen = (event: Event) => (event.target as HTMLSelectElement).value;
const typed = (event: Event) => (event.target as HTMLInputElement).value;
</script>

<template>
  <div
    class="row"
    :class="{ picked, wide, [`is-${row.verdict}`]: true }"
    role="row"
    :aria-rowindex="index + 2"
  >
    <span role="cell" class="first">
      <button type="button" class="name" :aria-pressed="picked" @click="emit('pick')">
        <span class="mark" :class="`text-${verdict.color}`" :title="verdict.word">
          {{ verdict.mark }}<span class="d-sr-only"> {{ verdict.word }}</span>
        </span>
        <span class="words">
          <strong>{{ row.name }}</strong>
          <small>{{ row.purpose }}{{ row.measured ? "" : ", length estimated" }}</small>
        </span>
      </button>
    </span>
    <span v-for="{ name, leg } in legs" :key="name" role="cell" class="entry">
      <label v-if="!wide && leg">{{ name }} m</label>
      <input
        v-if="leg"
        type="text"
        inputmode="decimal"
        :value="leg.length_m"
        :data-cell="`${index}:${name}`"
        :aria-label="`${row.name}, length ${name} in metres`"
        @change="emit('length', leg.cable, typed($event))"
      />
      <span v-else-if="wide" class="none">–</span>
    </span>
    <span role="cell" class="figure">
      <strong>{{ amps(row.current_a) }}</strong>
      <small>of {{ amps(row.allowed_a) }}</small>
      <small v-if="row.brief_a > row.current_a">brief {{ amps(row.brief_a) }}</small>
    </span>
    <span role="cell" class="entry">
      <select
        :value="row.gauge"
        :data-cell="`${index}:size`"
        :aria-label="`${row.name}, size`"
        @change="emit('set', { gauge: chosen($event) })"
      >
        <option v-for="size in sizes" :key="size" :value="size">{{ size }}</option>
      </select>
      <small v-if="unequal" class="text-warning">◆ back {{ back?.gauge }}</small>
    </span>
    <span v-if="wide" role="cell" class="figure small spare">
      <span>{{ row.by_ampacity ?? "none" }}</span>
      <span>{{ row.path ? (row.by_drop ?? "no size") : "–" }}</span>
    </span>
    <span role="cell" class="figure">
      <strong>{{ lost }}</strong>
      <small v-if="row.path">of {{ allowed }}</small>
    </span>
    <span role="cell" class="device">
      <span :class="{ 'text-error': device === 'none' }">{{ device }}</span>
      <small>{{ row.device_type }}</small>
    </span>
    <span v-if="wide" role="cell" class="figure spare">{{
      volts(row.load_v).replace(" V", "")
    }}</span>
    <span role="cell" class="stay">
      <label :title="row.locked ? 'This run stays' : 'May be changed when sizes are chosen'">
        <input
          type="checkbox"
          :checked="row.locked"
          :aria-label="`${row.name} stays as it is`"
          @change="emit('set', { locked: !row.locked })"
        />
        <span v-if="!wide">stays</span>
      </label>
    </span>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  gap: 2px 8px;
  align-items: center;
  padding: 2px 8px 2px 10px;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.16);
  border-left: 5px solid transparent;
}
.wide {
  grid-template-columns: var(--run-columns);
  height: v-bind("`${ROW_PX.wide}px`");
}
.is-bad {
  border-left-color: rgb(var(--v-theme-error));
}
.is-weak {
  border-left-color: rgb(var(--v-theme-warning));
}
.picked {
  background: rgb(var(--v-theme-surface-variant));
}
.first {
  min-width: 0;
}
.name {
  width: 100%;
  display: flex;
  gap: 8px;
  align-items: center;
  text-align: left;
  min-height: 48px;
  min-width: 0;
  color: inherit;
}
.mark {
  font-weight: 800;
  width: 1.1em;
  flex: none;
}
.words {
  min-width: 0;
}
.words strong {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow: hidden;
  font-size: 0.92rem;
  line-height: 1.12;
}
small {
  display: block;
  font-size: 0.78rem;
  line-height: 1.1;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.figure {
  white-space: nowrap;
  text-align: right;
}
.small {
  font-size: 0.84rem;
}
.small span {
  display: block;
  line-height: 1.15;
}
.entry input,
.entry select {
  width: 100%;
  height: 38px;
  padding: 0 6px;
  font: inherit;
  color: rgb(var(--v-theme-on-surface));
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-ink), 0.3);
  border-radius: 6px;
}
.entry input {
  text-align: right;
}
.none {
  display: block;
  text-align: center;
}
.device {
  min-width: 0;
  font-weight: 600;
}
.device span {
  white-space: nowrap;
}
.stay label {
  display: flex;
  justify-content: center;
  align-items: center;
  gap: 6px;
  min-height: 40px;
}
.stay input {
  width: 20px;
  height: 20px;
}
@container runs (max-width: 1000px) {
  .wide .spare {
    display: none;
  }
}
.row:not(.wide) {
  grid-template-columns: 1fr 1fr 1.1fr 1.25fr;
  height: v-bind("`${ROW_PX.narrow}px`");
}
.row:not(.wide) :is(input[type="text"], select) {
  height: 48px;
}
.row:not(.wide) .device span {
  white-space: normal;
}
.row:not(.wide) .stay label {
  min-height: 48px;
}
.row:not(.wide) .first {
  grid-column: 1 / -1;
}
.entry label {
  font-size: 0.74rem;
  display: block;
}
</style>
