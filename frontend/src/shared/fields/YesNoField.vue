<script setup lang="ts">
import PickField from "./PickField.vue";
import type { Save } from "./useKept";

defineProps<{
  label: string;
  value: boolean | null | undefined;
  save: Save<boolean | null>;
  nullable?: boolean;
}>();

const picks = [
  { value: true, title: "Yes" },
  { value: false, title: "No" },
];
</script>

<template>
  <PickField
    :label="label"
    :value="value"
    :picks="picks"
    :nullable="nullable"
    :save="(chosen) => save(chosen as boolean | null)"
  />
</template>
