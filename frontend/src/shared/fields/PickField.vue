<script setup lang="ts">
import { computed, useId } from "vue";

import FieldBox from "./FieldBox.vue";
import { useKept, type Save } from "./useKept";

export interface Pick {
  value: string | number | boolean | null;
  title: string;
}

const props = defineProps<{
  label: string;
  value: Pick["value"] | undefined;
  picks: Pick[];
  save: Save<Pick["value"]>;
  assumed?: boolean;
  /** Offers *not known*, which is to find out. */
  nullable?: boolean;
  /** What no choice is called where it is not something to find out. */
  none?: string;
}>();

const field = useId();
const now = computed(() => props.value ?? null);
const all = computed(() =>
  props.nullable || props.none || now.value === null
    ? [{ value: null, title: props.none ?? "Not known" }, ...props.picks]
    : props.picks,
);
const unknown = computed(() => props.nullable && now.value === null);
const { typed, wrong, saving, keep } = useKept(
  () => now.value,
  (value) => props.save(value),
);

function chosen(event: Event) {
  const at = (event.target as HTMLSelectElement).selectedIndex;
  void keep(all.value[at]?.value ?? null);
}
</script>

<template>
  <FieldBox :field="field" v-bind="{ label, assumed, unknown, wrong, saving }">
    <select :id="field" @change="chosen">
      <option v-for="pick in all" :key="String(pick.value)" :selected="pick.value === typed">
        {{ pick.title }}
      </option>
    </select>
  </FieldBox>
</template>
