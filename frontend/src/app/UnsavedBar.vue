<script setup lang="ts">
/** What is not sent yet, wherever one is: how much, why, and what is done about it. */
import { useElementSize } from "@vueuse/core";
import { computed, ref, watch } from "vue";

import { asOf } from "@/aboard/answers";
import { newer } from "@/aboard/worker";
import type { Change } from "@/documents/saved";
import { useUnsaved, type Entry } from "@/documents/unsaved";
import { day as onDay, hour } from "@/shared/formats";

const unsaved = useUnsaved();
const bar = ref<HTMLElement | null>(null);
const { height } = useElementSize(bar, undefined, { box: "border-box" });
// On a phone stages end above it: it covers nothing that a thumb is after.
watch(height, (px) =>
  document.documentElement.style.setProperty("--unsaved-height", `${Math.ceil(px)}px`),
);
const shown = computed(
  () =>
    (unsaved.away && (unsaved.count > 0 || asOf.value !== null)) ||
    unsaved.refused.length > 0 ||
    unsaved.full ||
    newer.value !== null,
);
const count = computed(() =>
  unsaved.count === 1 ? "1 entry is not saved yet" : `${unsaved.count} entries are not saved yet`,
);
const asComputed = computed(() => {
  if (!asOf.value) return "";
  const at = new Date(asOf.value);
  const day = at.toDateString() === new Date().toDateString() ? "" : `${onDay(at)} `;
  const n = unsaved.count;
  const before = n ? `, before your last ${n === 1 ? "entry" : `${n} entries`}` : "";
  const time = hour(at);
  return `Shown as computed ${day}${time}${before}.`;
});

/** An entry in words: what it is about, and what was typed. */
function words(entry: Entry): string {
  if (entry.sort === "photo") return "a photograph";
  if (entry.sort === "entries") {
    return entry.entries.map((one) => `${one.kind} of ${one.target}`).join(", ");
  }
  const change = entry.change;
  const fields = Object.entries(("fields" in change ? change.fields : firstRow(change)) ?? {});
  const typed = fields.filter(([name]) => name !== "id").slice(0, 3);
  const told = typed.map(([name, value]) => `${name.replaceAll("_", " ")} ${String(value)}`);
  return [about(change).replaceAll("_", " "), told.join(", ")].filter(Boolean).join(": ");
}

/** What a change is about: a section or list of the survey, a part or cable of the design. */
function about(change: Change): string {
  if ("section" in change) return change.section;
  if ("list" in change) return change.list;
  const named = "part" in change ? change.part : "cable" in change ? change.cable : change.type;
  return typeof named === "string" ? named : named.id;
}

const firstRow = (change: Change) => (change.type === "put_rows" ? change.rows[0] : undefined);
</script>

<template>
  <aside v-if="shown" ref="bar" class="unsaved" role="status" aria-label="Not saved yet">
    <p v-if="unsaved.full" class="line">
      <strong>▲ This device cannot keep entries: it is full, or keeps nothing.</strong>
      Leave this page open until they are sent.
    </p>
    <div v-if="unsaved.away && (unsaved.count || asComputed)" class="line">
      <p>
        <template v-if="unsaved.count">
          <strong>◆ {{ count }}.</strong>
          The server does not answer. They are
          {{ unsaved.full ? "in this page alone" : "kept on this device" }} and sent by themselves.
        </template>
        <strong v-else>◆ The server does not answer.</strong>
        {{ asComputed }}
      </p>
      <v-btn variant="flat" color="secondary" @click="unsaved.tryNow()">Try now</v-btn>
    </div>
    <div v-for="entry in unsaved.refused" :key="entry.key" class="line">
      <p><strong>■ Not saved</strong> {{ words(entry) }}. {{ entry.refused }}</p>
      <v-btn variant="outlined" @click="unsaved.drop(entry)">Discard</v-btn>
    </div>
    <div v-if="newer" class="line">
      <p><strong>A newer version of the program is there.</strong> It is loaded when you say so.</p>
      <v-btn variant="outlined" :disabled="unsaved.count > 0" @click="newer()">Load it</v-btn>
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
.line .v-btn {
  flex: none;
  min-height: 48px;
}
@media (max-width: 959px) {
  .unsaved {
    inset: auto 0 0 0;
    max-width: none;
    max-height: 26vh;
    padding: 4px 10px;
    border-radius: 0;
    border-width: 2px 0 0;
  }
}
</style>
