<script setup lang="ts">
/** Several numbers in one line, or several rows of them with a semicolon between. */
import { computed, useId } from "vue";

import FieldBox from "./FieldBox.vue";
import { readRows, writeRows } from "./numbers";
import { useKept, type Save } from "./useKept";

const props = defineProps<{
  label: string;
  unit?: string;
  value: number[][];
  /** Numbers in a row. */
  width: number;
  save: Save<number[][]>;
  assumed?: boolean;
}>();

const field = useId();
const text = computed(() => writeRows(props.value));
const { typed, wrong, saving, keep } = useKept(
  () => text.value,
  (value) => {
    const read = readRows(value, props.width);
    return "wrong" in read ? false : props.save(read.rows);
  },
);
const unread = computed(() => {
  const read = readRows(typed.value, props.width);
  return "wrong" in read ? read.wrong : "";
});
</script>

<template>
  <FieldBox :field="field" v-bind="{ label, unit, assumed, saving }" :wrong="unread || wrong">
    <input
      :id="field"
      type="text"
      autocomplete="off"
      :value="typed"
      @change="keep(($event.target as HTMLInputElement).value)"
    />
  </FieldBox>
</template>
