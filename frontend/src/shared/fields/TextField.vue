<script setup lang="ts">
import { useId } from "vue";

import FieldBox from "./FieldBox.vue";
import { useKept, type Save } from "./useKept";

const props = defineProps<{
  label: string;
  value: string | null | undefined;
  save: Save<string>;
  rows?: number;
  required?: boolean;
  type?: string;
}>();

const field = useId();
const { typed, wrong, saving, keep } = useKept(
  () => props.value ?? "",
  (value) => (props.required && !value.trim() ? false : props.save(value)),
);
</script>

<template>
  <FieldBox :field="field" :label="label" :wrong="wrong" :saving="saving">
    <textarea
      v-if="rows"
      :id="field"
      :value="typed"
      :rows="rows"
      maxlength="2000"
      @change="keep(($event.target as HTMLTextAreaElement).value)"
    />
    <input
      v-else
      :id="field"
      :type="type ?? 'text'"
      :value="typed"
      maxlength="60"
      autocomplete="off"
      @change="keep(($event.target as HTMLInputElement).value)"
    />
  </FieldBox>
</template>
