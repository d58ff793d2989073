<script setup lang="ts">
/** What every field stands in: its name, its unit, whether it is assumed, what is wrong with it. */
import { away } from "@/api/connection";

defineProps<{
  label: string;
  unit?: string;
  assumed?: boolean;
  unknown?: boolean;
  wrong?: string;
  saving?: boolean;
  field: string;
}>();
</script>

<template>
  <div class="field" :class="{ wrong }">
    <label :for="field">
      {{ label }}
      <span v-if="unknown" class="mark text-info">? to find out</span>
      <span v-else-if="assumed" class="mark text-warning">◆ assumed</span>
    </label>
    <div class="box">
      <slot />
      <span v-if="unit" class="unit">{{ unit }}</span>
    </div>
    <p v-if="saving && away" class="text-warning" role="status">
      ◆ Not saved yet: the server does not answer
    </p>
    <p v-else-if="wrong" class="text-error" role="alert">{{ wrong }}</p>
  </div>
</template>

<style>
.field label {
  display: block;
  font-size: 0.86rem;
  font-weight: 600;
  margin-bottom: 2px;
}
.field .mark {
  font-weight: 700;
  white-space: nowrap;
}
.field .box {
  display: flex;
  align-items: center;
  min-height: 42px;
  border: 1.5px solid rgb(var(--v-theme-ink), 0.5);
  border-radius: 8px;
  background: rgb(var(--v-theme-surface));
  color: rgb(var(--v-theme-on-surface));
}
.field .box:focus-within {
  outline: 3px solid rgb(var(--v-theme-secondary));
  outline-offset: 1px;
}
.field.wrong .box {
  border-color: rgb(var(--v-theme-error));
}
.field input,
.field select,
.field textarea {
  flex: 1;
  min-width: 0;
  width: 100%;
  min-height: 40px;
  padding: 4px 10px;
  font: inherit;
  font-weight: 600;
  color: inherit;
  background: none;
  border: 0;
  outline: none !important;
}
.field select option {
  background: rgb(var(--v-theme-surface));
  color: rgb(var(--v-theme-on-surface));
}
.field .unit {
  padding-right: 10px;
  white-space: nowrap;
  opacity: 0.85;
}
.field p {
  font-size: 0.84rem;
}
</style>
