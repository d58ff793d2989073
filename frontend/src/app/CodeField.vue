<script setup lang="ts">
/** The code of the second factor, asked for after a right password. */
const code = defineModel<string>({ required: true });
</script>

<template>
  <v-text-field
    v-model="code"
    label="Code of your phone, or a recovery code"
    inputmode="text"
    autocomplete="one-time-code"
    autofocus
    required
  />
</template>
