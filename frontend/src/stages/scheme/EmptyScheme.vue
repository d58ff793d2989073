<script setup lang="ts">
/** Above a drawing without a bank: what is missing, and what to do about it. */
import { computed } from "vue";

import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";

const emit = defineEmits<{ add: [] }>();
const open = useOpenJob();
const schemes = useScheme();

const nothing = computed(() => schemes.parts.length === 0);
const shown = computed(
  () => schemes.scheme !== null && !schemes.parts.some((part) => part.kind === "bank"),
);
</script>

<template>
  <section v-if="shown" class="empty" aria-label="This scheme has no bank">
    <h2>{{ nothing ? "This scheme is empty" : "No bank is aboard" }}</h2>
    <p>
      {{ nothing ? "Nothing is drawn. " : "Nothing here has a voltage. " }}Put in a bank first; what
      charges it and what it feeds land on it.
    </p>
    <div class="ways">
      <v-btn color="primary" variant="flat" size="large" @click="emit('add')">Put in a bank</v-btn>
      <v-btn v-if="open.canUndo" variant="outlined" size="large" @click="open.undo()">
        Undo: {{ open.canUndo }}
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
.empty {
  display: grid;
  flex: none;
  gap: 10px;
  margin: 6px 12px;
  padding: 14px 18px;
  border: 2px solid rgb(var(--v-theme-warning));
  border-radius: 10px;
  background: rgb(var(--v-theme-surface));
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
