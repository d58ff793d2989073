<script setup lang="ts">
/** A line or some lines of words in a form of the log. */
const model = defineModel<string>({ required: true });
defineProps<{ label: string; rows?: number; most?: number; needed?: boolean }>();
</script>

<template>
  <label class="words">
    {{ label }}<template v-if="needed"> *</template>
    <textarea v-if="rows" v-model="model" :rows="rows" :maxlength="most ?? 1000" />
    <input v-else v-model="model" type="text" :maxlength="most ?? 120" autocomplete="off" />
  </label>
</template>

<style scoped>
.words {
  display: block;
  flex: 1 1 220px;
  font-weight: 600;
}
input,
textarea {
  display: block;
  width: 100%;
  min-height: 48px;
  padding: 6px 10px;
  font: inherit;
  font-weight: 500;
  color: inherit;
  border: 1.5px solid rgb(var(--v-theme-ink), 0.5);
  border-radius: 8px;
  background: rgb(var(--v-theme-surface));
}
</style>
