<script setup lang="ts">
/** A table on its way in: what can be read, what is wrong where; kept only when told so. */
import { ref, watch } from "vue";

import { api, ProblemError, told, type Schemas } from "@/api/client";
import { useOpenJob } from "@/documents/openJob";
import { useSurvey } from "@/documents/surveyStore";

const props = defineProps<{ which: "items" | "counted"; table: string | Blob | null }>();
const emit = defineEmits<{ close: [] }>();

const surveys = useSurvey();
const open = useOpenJob();
const text = ref("");
const read = ref<Schemas["RowsOut"] | null>(null);
const refused = ref<string[]>([]);
const busy = ref(false);
const SHOWN = 50;

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
  busy.value = true;
  read.value = null;
  refused.value = [];
  try {
    read.value = await told(
      api.POST("/api/jobs/{job_id}/rows/{which}", {
        params: { path: { job_id: open.ids.job, which: props.which } },
        body: given as never,
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
  } finally {
    busy.value = false;
  }
}

async function keep() {
  if (read.value && (await surveys.put(props.which, ...read.value.rows))) emit("close");
}
</script>

<template>
  <v-dialog
    :model-value="table !== null"
    scrollable
    persistent
    max-width="760"
    aria-label="Table to bring in"
  >
    <v-card title="Table to bring in">
      <v-card-text>
        <v-progress-linear v-if="busy" indeterminate aria-label="Reading the table" />
        <template v-if="read">
          <p class="sum">
            {{ read.rows.length }} of {{ read.read }} rows can be kept.
            <span v-if="read.problems.length" class="text-error">
              ▲ {{ read.problems.length }} wrong
            </span>
          </p>
          <p v-for="note in read.notes" :key="note" class="text-warning">◆ {{ note }}</p>
          <ul v-if="read.problems.length" class="problems">
            <li v-for="problem in read.problems.slice(0, SHOWN)" :key="problem.path">
              <strong>{{ problem.path }}</strong>: {{ problem.message }}
            </li>
            <li v-if="read.problems.length > SHOWN">and {{ read.problems.length - SHOWN }} more</li>
          </ul>
          <p>
            {{
              read.rows
                .slice(0, 8)
                .map((row) => row.name ?? row.date)
                .join(", ")
            }}
          </p>
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
          :disabled="!read?.rows.length || surveys.busy"
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
