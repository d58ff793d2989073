<script setup lang="ts">
/** What is not saved yet, wherever one is: how much, why, and what is done about it. */
import { computed } from "vue";

import { useUnsaved, type Entry } from "@/documents/unsaved";

const unsaved = useUnsaved();
const shown = computed(() => (unsaved.away && unsaved.count > 0) || unsaved.refused.length > 0);
const count = computed(() =>
  unsaved.count === 1 ? "1 entry is not saved yet" : `${unsaved.count} entries are not saved yet`,
);

/** An entry in words: what it is about, and what was typed. */
function words({ change }: Entry): string {
  const about = change.section ?? change.part ?? change.list ?? change.cable ?? change.type;
  const rows = (change.rows as Record<string, unknown>[] | undefined)?.[0];
  const fields = Object.entries((change.fields ?? rows ?? {}) as Record<string, unknown>);
  const typed = fields.filter(([name]) => name !== "id").slice(0, 3);
  const told = typed.map(([name, value]) => `${name.replaceAll("_", " ")} ${String(value)}`);
  return [String(about).replaceAll("_", " "), told.join(", ")].filter(Boolean).join(": ");
}
</script>

<template>
  <aside v-if="shown" class="unsaved" role="status" aria-label="Not saved yet">
    <div v-if="unsaved.away && unsaved.count" class="line">
      <p>
        <strong>◆ {{ count }}.</strong>
        The server does not answer. They are kept on this device and sent by themselves.
      </p>
      <v-btn size="small" variant="flat" color="secondary" @click="unsaved.tryNow()">Try now</v-btn>
    </div>
    <div v-for="entry in unsaved.refused" :key="entry.key" class="line">
      <p><strong>■ Not saved</strong> {{ words(entry) }}. {{ entry.refused }}</p>
      <v-btn size="small" variant="outlined" @click="unsaved.drop(entry)">Discard</v-btn>
    </div>
  </aside>
</template>

<style scoped>
.unsaved {
  position: fixed;
  z-index: 1500;
  inset: auto 12px 12px auto;
  max-width: min(560px, calc(100vw - 24px));
  max-height: 40vh;
  overflow: auto;
  padding: 10px 14px;
  border: 2px solid rgb(var(--v-theme-warning));
  border-radius: 10px;
  background: rgb(var(--v-theme-surface));
  color: rgb(var(--v-theme-on-surface));
}
.line {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  min-height: 48px;
}
</style>
