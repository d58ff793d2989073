<script setup lang="ts">
import { useDebounceFn, useEventListener, useMediaQuery } from "@vueuse/core";
import { computed, nextTick, onBeforeUnmount, ref, useId, watch } from "vue";

import FieldBox from "./FieldBox.vue";
import { outOfRange, readNumber, stepped, writeNumber } from "./numbers";
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

/** By a thumb in a glove: several presses are one entry. */
const CALM_MS = 800;
const coarse = useMediaQuery("(pointer: coarse)");
const stepping = ref(false);
const keepCalmly = useDebounceFn(keepSteps, CALM_MS);
onBeforeUnmount(keepSteps);
useEventListener(document, "visibilitychange", keepSteps);
function keepSteps() {
  if (!stepping.value) return;
  stepping.value = false;
  void keep();
}
const number = computed(() => {
  const read = readNumber(text.value);
  return "value" in read ? read.value : null;
});

function step(up: 1 | -1) {
  if (number.value === null) return;
  text.value = writeNumber(stepped(number.value, up, props));
  stepping.value = true;
  void keepCalmly();
}
</script>

<template>
  <FieldBox :field="field" v-bind="{ label, unit, assumed, unknown, wrong, saving }">
    <button
      v-if="coarse && number !== null"
      type="button"
      class="stepper"
      aria-label="One step less"
      :aria-controls="field"
      @click="step(-1)"
    >
      −
    </button>
    <input
      :id="field"
      v-model="text"
      type="text"
      inputmode="decimal"
      autocomplete="off"
      :aria-invalid="wrong !== ''"
      @change="keep"
    />
    <button
      v-if="coarse && number !== null"
      type="button"
      class="stepper last"
      aria-label="One step more"
      :aria-controls="field"
      @click="step(1)"
    >
      +
    </button>
  </FieldBox>
</template>

<style scoped>
.stepper {
  flex: none;
  width: 48px;
  min-height: 48px;
  font-size: 1.5rem;
  font-weight: 800;
}
.last {
  order: 1;
}
</style>
