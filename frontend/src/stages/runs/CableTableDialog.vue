<script setup lang="ts">
/** A table of cables on its way in: what can be read, what is wrong where. */
import { ref, watch } from "vue";

import { api, ProblemError, told, type Schemas } from "@/api/client";
import { useScheme } from "@/documents/schemeStore";

const props = defineProps<{ table: string | Blob | null }>();
const emit = defineEmits<{ close: [] }>();

const schemes = useScheme();
const text = ref("");
const read = ref<Schemas["ReadRunsOut"] | null>(null);
const refused = ref<string[]>([]);

watch(
  () => props.table,
  async (given) => {
    if (given === null) return;
    text.value = typeof given === "string" ? given : await given.text();
    await look();
  },
  { immediate: true },
);

async function look() {
  read.value = null;
  refused.value = [];
  try {
    read.value = await told(
      api.POST("/api/variants/{variant_id}/runs.csv", {
        params: { path: { variant_id: schemes.scheme?.variant ?? "" } },
        body: text.value as never,
        bodySerializer: (body) => body,
        headers: { "Content-Type": "text/csv" },
      }),
    );
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    const { errors, detail } = error.problem;
    refused.value = errors.length
      ? errors.map((e) => (e.path ? `${e.path}: ${e.message}` : e.message))
      : [detail];
  }
}

async function keep() {
  if (read.value?.rows.length && (await schemes.setCables(read.value.rows))) emit("close");
}
</script>

<template>
  <v-dialog
    :model-value="table !== null"
    scrollable
    persistent
    max-width="760"
    aria-label="Table of cables to bring in"
  >
    <v-card title="Table of cables to bring in">
      <v-card-text>
        <template v-if="read">
          <p class="sum">
            {{ read.rows.length }} of {{ read.read }} rows change a cable.
            <span v-if="read.problems.length" class="text-error">
              ▲ {{ read.problems.length }} wrong
            </span>
          </p>
          <p v-for="note in read.notes" :key="note" class="text-warning">◆ {{ note }}</p>
          <ul class="problems">
            <li v-for="problem in read.problems" :key="problem.path">
              <strong>{{ problem.path }}</strong>: {{ problem.message }}
            </li>
          </ul>
        </template>
        <ul v-if="refused.length" class="problems text-error">
          <li v-for="line in refused" :key="line">▲ {{ line }}</li>
        </ul>
        <label for="cables-text">The table; mend it here and read it again</label>
        <textarea id="cables-text" v-model="text" rows="9" spellcheck="false"></textarea>
        <v-btn @click="look">Read it again</v-btn>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Keep nothing</v-btn>
        <v-btn
          color="secondary"
          variant="flat"
          :disabled="!read?.rows.length || schemes.busy"
          @click="keep"
        >
          Keep {{ read?.problems.length ? "the good" : "all" }} {{ read?.rows.length ?? 0 }} rows
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
