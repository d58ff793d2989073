<script setup lang="ts">
import { computed, nextTick, ref, useId, watch } from "vue";

import FieldBox from "./FieldBox.vue";
import { outOfRange, readNumber, writeNumber } from "./numbers";
import type { Save } from "./useKept";

const props = defineProps<{
  label: string;
  unit?: string;
  value: number | null | undefined;
  save: Save<number | null>;
  assumed?: boolean;
  /** An empty field is *to find out*. */
  nullable?: boolean;
  /** An empty field says nothing; without either an empty field is refused. */
  optional?: boolean;
  minimum?: number;
  maximum?: number;
  whole?: boolean;
}>();

const field = useId();
const text = ref(writeNumber(props.value));
const wrong = ref("");
const saving = ref(false);
const unknown = computed(() => props.nullable && props.value == null);

watch(
  () => props.value,
  (value) => {
    text.value = writeNumber(value);
    wrong.value = "";
  },
);

async function keep() {
  const read = readNumber(text.value);
  if ("wrong" in read) {
    wrong.value = read.wrong;
  } else if (read.value === null && !props.nullable && !props.optional) {
    wrong.value = "A number is needed here";
  } else if (read.value === (props.value ?? null)) {
    wrong.value = "";
  } else if (read.value !== null && outOfRange(read.value, props)) {
    wrong.value = outOfRange(read.value, props);
  } else {
    saving.value = true;
    const kept = await props.save(read.value);
    saving.value = false;
    wrong.value = kept ? "" : "Not saved: see the message";
    if (!kept) return;
    await nextTick();
    text.value = writeNumber(props.value);
  }
}
</script>

<template>
  <FieldBox :field="field" v-bind="{ label, unit, assumed, unknown, wrong, saving }">
    <input
      :id="field"
      v-model="text"
      type="text"
      inputmode="decimal"
      autocomplete="off"
      :aria-invalid="wrong !== ''"
      @change="keep"
    />
  </FieldBox>
</template>
