<script setup lang="ts">
/** What is due on this boat, done with a note, and the calendar of all boats. */
import { ref } from "vue";

import { readNumber } from "@/shared/fields/numbers";

import CalendarCard from "./CalendarCard.vue";
import { STANDINGS, type Log, type LogStage } from "./useLog";
import WordsField from "./WordsField.vue";
import { day as onDay } from "@/shared/formats";

const props = defineProps<{ log: Log; stage: LogStage }>();

const at = ref("");
const note = ref("");
const hours = ref("");
const done = (key: string) =>
  props.log.entries.filter((e) => e.kind === "done" && e.target === key);

async function keep(key: string) {
  const read = readNumber(hours.value);
  const engine_h = "value" in read ? read.value : null;
  const service = { note: note.value, engine_h };
  if (await props.stage.enter({ kind: "done", target: key, service })) {
    at.value = note.value = hours.value = "";
  }
}
</script>

<template>
  <section aria-label="Service" class="block">
    <ul class="tasks">
      <li v-for="due in log.due" :key="due.task.key" class="card">
        <div class="task">
          <span class="mark" :class="`text-${STANDINGS[due.standing]?.color}`">
            {{ STANDINGS[due.standing]?.mark }} {{ STANDINGS[due.standing]?.word }}
          </span>
          <div>
            <h3>{{ due.task.title }}</h3>
            <p>
              <template v-if="due.on">Due {{ onDay(due.on) }}</template>
              <template v-if="due.at_engine_h !== null">
                or at {{ due.at_engine_h }} engine hours
              </template>
              <template v-if="due.why">: {{ due.why }}</template>
              <template v-if="due.last">; last {{ onDay(due.last) }}</template>
            </p>
            <p v-if="due.task.caution" class="text-error">▲ {{ due.task.caution }}</p>
          </div>
          <v-btn size="large" @click="at = at === due.task.key ? '' : due.task.key">Done</v-btn>
        </div>
        <form v-if="at === due.task.key" class="row" @submit.prevent="keep(due.task.key)">
          <p class="how">{{ due.task.how }}. {{ due.task.source }}.</p>
          <WordsField v-model="note" label="What was seen" :most="1000" />
          <WordsField v-model="hours" label="Engine hours, h" :most="12" />
          <v-btn
            type="submit"
            size="large"
            color="secondary"
            variant="flat"
            :loading="stage.sending.value"
          >
            ✓ Keep as done today
          </v-btn>
        </form>
        <details v-if="done(due.task.key).length">
          <summary>Done before: {{ done(due.task.key).length }}</summary>
          <ul>
            <li v-for="entry in done(due.task.key)" :key="entry.id">
              {{ onDay(entry.at) }} {{ entry.author }}: {{ entry.service?.note || "no note" }}
              <template v-if="entry.service?.engine_h">, {{ entry.service.engine_h }} h</template>
            </li>
          </ul>
        </details>
      </li>
    </ul>
    <CalendarCard />
  </section>
</template>

<style src="./forms.css" scoped></style>
<style scoped>
.tasks {
  list-style: none;
  padding: 0;
}
.task {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr) auto;
  gap: 14px;
  align-items: center;
}
.tasks .card {
  margin: 8px 0;
}
.mark {
  font-weight: 700;
}
.how {
  flex-basis: 100%;
}
summary {
  min-height: 40px;
  padding-top: 8px;
}
@media (max-width: 959px) {
  .task {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .mark {
    grid-column: 1 / -1;
  }
}
</style>
