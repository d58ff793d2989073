<script setup lang="ts" generic="Row">
/** A table on its way in: what can be read, what is wrong where; kept only when told so. */
import { computed, ref, shallowRef, watch } from "vue";

import { ProblemError } from "@/api/client";

export interface ReadTable<T> {
  rows: T[];
  problems: { path: string; message: string }[];
  notes: string[];
  read: number;
}

const props = defineProps<{
  table: string | Blob | null;
  title: string;
  /** What good rows do, such as *can be kept*. */
  does: string;
  busy: boolean;
  read: (table: string | Blob) => Promise<ReadTable<Row>>;
  keep: (rows: Row[]) => Promise<boolean>;
}>();
const emit = defineEmits<{ close: [] }>();

const text = ref("");
const found = shallowRef<ReadTable<Row> | null>(null);
const refused = ref<string[]>([]);
const reading = ref(false);
const SHOWN = 50;
const which = computed(() => (found.value?.problems.length ? "the good" : "all"));

watch(
  () => props.table,
  async (given) => {
    if (given === null) return;
    text.value = typeof given === "string" ? given : "";
    await look(given);
  },
  { immediate: true },
);

async function look(given: string | Blob) {
  reading.value = true;
  found.value = null;
  refused.value = [];
  try {
    found.value = await props.read(given);
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    const { errors, detail } = error.problem;
    refused.value = errors.length
      ? errors.map((e) => (e.path ? `${e.path}: ${e.message}` : e.message))
      : [detail];
  } finally {
    reading.value = false;
  }
}

async function keepThem() {
  if (found.value?.rows.length && (await props.keep(found.value.rows))) emit("close");
}
</script>

<template>
  <v-dialog :model-value="table !== null" scrollable persistent max-width="760" :aria-label="title">
    <v-card :title="title">
      <v-card-text>
        <v-progress-linear v-if="reading" indeterminate aria-label="Reading the table" />
        <template v-if="found">
          <p class="sum">
            {{ found.rows.length }} of {{ found.read }} rows {{ does }}.
            <span v-if="found.problems.length" class="text-error">
              ▲ {{ found.problems.length }} wrong
            </span>
          </p>
          <p v-for="note in found.notes" :key="note" class="text-warning">◆ {{ note }}</p>
          <ul v-if="found.problems.length" class="problems">
            <li v-for="problem in found.problems.slice(0, SHOWN)" :key="problem.path">
              <strong>{{ problem.path }}</strong>: {{ problem.message }}
            </li>
            <li v-if="found.problems.length > SHOWN">
              and {{ found.problems.length - SHOWN }} more
            </li>
          </ul>
          <slot :rows="found.rows" />
        </template>
        <ul v-if="refused.length" class="problems text-error">
          <li v-for="line in refused" :key="line">▲ {{ line }}</li>
        </ul>
        <template v-if="text">
          <label for="table-text">The table; mend it here and read it again</label>
          <textarea id="table-text" v-model="text" rows="9" spellcheck="false"></textarea>
          <v-btn @click="look(text)">Read it again</v-btn>
        </template>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Keep nothing</v-btn>
        <v-btn
          color="secondary"
          variant="flat"
          :disabled="!found?.rows.length || busy"
          @click="keepThem"
        >
          Keep {{ which }} {{ found?.rows.length ?? 0 }} rows
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sum {
  font-size: 1.15rem;
  font-weight: 700;
}
.problems {
  max-height: 220px;
  overflow: auto;
  padding-left: 18px;
  margin: 8px 0;
}
label {
  display: block;
  margin-top: 10px;
  font-weight: 600;
}
textarea {
  width: 100%;
  font-family: ui-monospace, monospace;
  font-size: 0.86rem;
  color: inherit;
  border: 1px solid rgb(var(--v-theme-ink), 0.4);
  border-radius: 8px;
  padding: 8px;
  margin-bottom: 8px;
  white-space: pre;
}
</style>
