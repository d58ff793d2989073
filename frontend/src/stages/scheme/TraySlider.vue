<script setup lang="ts">
/** A condition with a value: a slider under its name, the value with its unit below. */
defineProps<{
  label: string;
  min: number;
  max: number;
  step: number;
  value: number;
  words: string;
  disabled?: boolean;
}>();
const emit = defineEmits<{ set: [value: number] }>();
</script>

<template>
  <label class="slider">
    <input
      type="range"
      :min="min"
      :max="max"
      :step="step"
      :aria-label="label"
      :disabled="disabled"
      :value="value"
      @input="emit('set', Number(($event.target as HTMLInputElement).value))"
    />
    <span>{{ words }}</span>
  </label>
</template>

<style scoped>
.slider {
  display: flex;
  flex-direction: column;
  font-weight: 600;
  font-size: 0.9rem;
}
input {
  width: 104px;
  height: 22px;
  accent-color: rgb(var(--v-theme-secondary));
}
</style>
