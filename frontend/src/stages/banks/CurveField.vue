<script setup lang="ts">
/** A generator's curve: picked, or typed in as speed and amps, line by line. */
import { computed, useId } from "vue";

import type { Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useSurvey } from "@/documents/surveyStore";
import PickField, { type Pick } from "@/shared/fields/PickField.vue";

const props = defineProps<{
  machine: Schemas["Generator"];
  curves: Schemas["Choices"]["curves"];
}>();

const OWN = "own";
const surveys = useSurvey();
const notices = useNotices();
const field = useId();
const picks = computed(() => [
  ...props.curves
    .filter((curve) => curve.kind === props.machine.kind)
    .map((curve) => ({ value: curve.id, title: curve.label })),
  { value: OWN, title: "Own curve, typed in" },
]);
const points = computed(() =>
  props.machine.curve
    ? (props.curves.find((curve) => curve.id === props.machine.curve)?.points ?? [])
    : props.machine.points,
);
const text = computed(() => points.value.map((p) => `${p.speed_kn} ${p.current_a}`).join("\n"));

function pick(value: Pick["value"]) {
  const own = value === OWN;
  // An own curve starts from the one that was picked, to be changed.
  const change = own
    ? { curve: null, points: points.value.map((point) => ({ ...point })) }
    : { curve: value, points: [] };
  return surveys.put("generators", { id: props.machine.id, ...change });
}

function typed(event: Event) {
  const lines = (event.target as HTMLTextAreaElement).value.split("\n").filter((l) => l.trim());
  const read = lines.map((line) =>
    line
      .trim()
      .split(/[\s;]+/)
      .map(Number),
  );
  const bad = read.findIndex((pair) => pair.length !== 2 || pair.some((n) => Number.isNaN(n)));
  if (bad >= 0) {
    const text = `Line ${bad + 1}: write a speed and amps, as 12 3.5`;
    notices.notice = { text, details: [], kind: "error" };
    return;
  }
  const own = read.map(([speed_kn = 0, current_a = 0]) => ({ speed_kn, current_a }));
  void surveys.put("generators", { id: props.machine.id, curve: null, points: own });
}
</script>

<template>
  <div class="curve">
    <PickField label="Curve" :value="machine.curve ?? OWN" :picks="picks" :save="pick" />
    <div class="field">
      <label :for="field">Speed in kn and amps into a 12 V bank, a pair on each line</label>
      <div class="box">
        <textarea
          :id="field"
          rows="4"
          :value="text"
          :readonly="Boolean(machine.curve)"
          @change="typed"
        ></textarea>
      </div>
    </div>
  </div>
</template>

<style scoped>
.curve {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: 12px;
}
</style>
