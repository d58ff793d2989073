<script setup lang="ts">
/** Ends a setting or a fault that stands open, in words. */
import { ref } from "vue";

import type { LogEntry, LogStage } from "./useLog";
import WordsField from "./WordsField.vue";

const props = defineProps<{ entry: LogEntry; stage: LogStage; ask: string }>();
const words = ref("");

async function cure() {
  const text = words.value.trim();
  if (text && (await props.stage.enter({ kind: "cured", target: props.entry.id, text })))
    words.value = "";
}
</script>

<template>
  <form class="cured" @submit.prevent="cure">
    <WordsField v-model="words" :label="ask" :most="1000" />
    <v-btn type="submit" size="large" :disabled="!words.trim()" :loading="stage.sending.value">
      ✓ Cured
    </v-btn>
  </form>
</template>

<style scoped>
.cured {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  margin-top: 8px;
}
</style>
