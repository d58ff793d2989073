<script setup lang="ts">
/** A line or some lines of words in a form of the log. */
const model = defineModel<string>({ required: true });
defineProps<{ label: string; rows?: number; most?: number; needed?: boolean }>();
</script>

<template>
  <label class="words">
    {{ label }}<template v-if="needed"> *</template>
    <textarea v-if="rows" v-model="model" class="boxed" :rows="rows" :maxlength="most ?? 1000" />
    <input
      v-else
      v-model="model"
      class="boxed"
      type="text"
      :maxlength="most ?? 120"
      autocomplete="off"
    />
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
  width: 100%;
  font: inherit;
  font-weight: 500;
}
</style>
