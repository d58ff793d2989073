<script setup lang="ts">
/** The order of work: all steps at the side, the one at hand large, with what is live now. */
import { computed, ref, watch } from "vue";
import { useDisplay } from "vuetify";

import { useAwake } from "@/aboard/useAwake";
import { dayAndHour } from "@/shared/formats";

import LiveNow from "./LiveNow.vue";
import PhotosOf from "./PhotosOf.vue";
import StackPicture from "./StackPicture.vue";
import { liveBefore, type Build, type Step, type useBuild } from "./useBuild";

const props = defineProps<{
  build: Build;
  stage: ReturnType<typeof useBuild>;
}>();

useAwake();
const { mdAndUp } = useDisplay();
const steps = computed(() => props.build.book.order.steps);
const at = ref(props.build.state.next_step ?? steps.value[0]?.key ?? "");
const note = ref("");
const index = computed(() =>
  Math.max(
    0,
    steps.value.findIndex((step) => step.key === at.value),
  ),
);
const step = computed(() => steps.value[index.value]);
const before = computed(() => liveBefore(props.build, index.value));
const notes = computed(() =>
  props.build.state.notes.filter((entry) => entry.target === step.value?.key),
);
const tickOf = (key: string) => props.build.state.ticks[key];
const done = (key: string) => tickOf(key)?.done === true;
watch(at, () => (note.value = ""));

async function finish(one: Step) {
  const next = steps.value[index.value + 1];
  if ((await props.stage.tick(one.key, !done(one.key))) && done(one.key) && next)
    at.value = next.key;
}

async function keepNote(one: Step) {
  const text = note.value.trim();
  if (text && (await props.stage.enter({ kind: "note", target: one.key, text }))) note.value = "";
}

/** Do a step earlier: the server refuses what is not safe, and says why. */
function move(by: number) {
  const keys = steps.value.map((one) => one.key);
  const [moved] = keys.splice(index.value, 1);
  if (moved) keys.splice(index.value + by, 0, moved);
  return props.stage.enter({ kind: "order", target: "build", keys });
}

const STOPS = {
  alive: "✓ Work can stop after it: the boat is alive.",
  dead: "◆ Work can stop after it, with the boat dark:",
  no: "▲ Do not stop after it:",
};
</script>

<template>
  <section aria-label="Steps" class="steps">
    <ol v-if="mdAndUp" class="list" aria-label="All steps">
      <li v-for="(one, n) in steps" :key="one.key">
        <h3 v-if="one.phase !== steps[n - 1]?.phase">{{ one.phase }}</h3>
        <button
          type="button"
          :class="{ here: one.key === at, done: done(one.key) }"
          :aria-current="one.key === at ? 'step' : undefined"
          @click="at = one.key"
        >
          <span class="mark" aria-hidden="true">{{ done(one.key) ? "☑" : "☐" }}</span>
          <span class="d-sr-only">{{ done(one.key) ? "done" : "to do" }}</span>
          {{ n + 1 }}. {{ one.title }}
          <small>{{ Math.round(one.minutes) }} min</small>
        </button>
      </li>
    </ol>
    <article v-if="step" class="step">
      <header>
        <p class="phase">
          Step {{ index + 1 }} of {{ steps.length }} · {{ step.phase }} ·
          {{ Math.round(step.minutes) }} min
        </p>
        <h2>{{ step.title }}</h2>
      </header>
      <LiveNow :posts="before" :after="step.live" />
      <p v-if="step.caution" class="caution text-error">▲ {{ step.caution }}</p>
      <ul class="doing">
        <li v-for="line in step.doing" :key="line.key">
          <label :class="{ done: done(line.key) }">
            <input
              type="checkbox"
              :checked="done(line.key)"
              @change="stage.tick(line.key, !done(line.key))"
            />
            <span>{{ line.words }}</span>
          </label>
        </li>
      </ul>
      <div v-if="step.stacks.length" class="stacks" aria-label="Stacks of lugs">
        <StackPicture v-for="stack in step.stacks" :key="stack.post" :stack="stack" />
      </div>
      <p v-if="step.needs.length"><strong>With:</strong> {{ step.needs.join(", ") }}</p>
      <p :class="step.stop === 'alive' ? 'text-success' : step.stop === 'no' ? 'text-error' : ''">
        {{ STOPS[step.stop] }} {{ step.why_no_stop }}
      </p>
      <p v-if="step.dead.length"><strong>Dead meanwhile:</strong> {{ step.dead.join(", ") }}</p>
      <ul v-if="notes.length" class="notes">
        <li v-for="entry in notes" :key="entry.id">
          {{ entry.text }}
          <small>{{ dayAndHour(entry.at) }}, {{ entry.author ?? "unknown" }}</small>
        </li>
      </ul>
      <form class="note" @submit.prevent="keepNote(step)">
        <label for="step-note">Note</label>
        <input id="step-note" v-model="note" type="text" maxlength="1000" />
        <v-btn type="submit" :disabled="!note.trim()">Keep the note</v-btn>
      </form>
      <PhotosOf :key="step.key" :target="step.key" :words="step.title" what="step" />
      <p v-if="tickOf(step.key)" class="who">
        {{ done(step.key) ? "Done" : "Taken back" }} {{ dayAndHour(tickOf(step.key)?.at ?? "") }},
        {{ tickOf(step.key)?.author ?? "unknown" }}
        <span v-if="tickOf(step.key)?.outdated" class="text-warning">
          ◆ on an earlier revision of the design
        </span>
      </p>
      <footer>
        <v-btn :disabled="index === 0" @click="at = steps[index - 1]?.key ?? at">Back</v-btn>
        <v-btn
          color="secondary"
          size="large"
          :variant="done(step.key) ? 'tonal' : 'flat'"
          :loading="stage.sending.value"
          @click="finish(step)"
        >
          {{ done(step.key) ? "Not done after all" : "Step done" }}
        </v-btn>
        <v-btn :disabled="index === steps.length - 1" @click="at = steps[index + 1]?.key ?? at">
          Next
        </v-btn>
        <v-btn v-if="mdAndUp" size="small" :disabled="index === 0" @click="move(-1)">
          Do it earlier
        </v-btn>
        <v-btn v-if="mdAndUp" size="small" :disabled="index === steps.length - 1" @click="move(1)">
          Later
        </v-btn>
      </footer>
    </article>
  </section>
</template>

<style scoped>
.steps {
  display: grid;
  grid-template-columns: minmax(230px, 300px) minmax(0, 1fr);
  gap: 18px;
}
.list {
  list-style: none;
  padding: 0;
  max-height: calc(100vh - 190px);
  overflow: auto;
  border-right: 1px solid rgb(var(--v-theme-ink), 0.2);
}
.list h3 {
  font-size: 0.95rem;
  margin: 10px 0 2px;
}
.list h3::first-letter,
.phase::first-letter {
  text-transform: uppercase;
}
.list button {
  display: block;
  width: 100%;
  text-align: left;
  padding: 4px 8px;
  min-height: 34px;
  border-left: 4px solid transparent;
}
.list .here {
  border-left-color: rgb(var(--v-theme-warning));
  font-weight: 700;
  background: rgb(var(--v-theme-ink), 0.06);
}
.list .done {
  opacity: 0.75;
}
.step h2 {
  font-size: 1.5rem;
  line-height: 1.2;
}
.caution {
  font-weight: 700;
  margin: 8px 0;
}
.doing {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
.doing label {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 48px;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.15);
  font-size: 1.08rem;
}
.doing input {
  width: 28px;
  height: 28px;
  flex: none;
  appearance: none;
  border: 2px solid rgb(var(--v-theme-ink), 0.7);
  border-radius: 6px;
  background: rgb(var(--v-theme-surface));
}
.doing input:checked {
  background: rgb(var(--v-theme-success));
}
.doing input:checked::after {
  content: "✓";
  display: block;
  text-align: center;
  line-height: 24px;
  font-weight: 800;
  color: rgb(var(--v-theme-surface));
}
.doing .done span {
  text-decoration: line-through;
  opacity: 0.75;
}
.stacks {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 8px 0;
}
.note {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin: 8px 0;
}
.note input {
  flex: 1 1 220px;
  min-height: 48px;
  color: inherit;
  border: 1px solid rgb(var(--v-theme-ink), 0.4);
  border-radius: 8px;
  padding: 4px 10px;
}
.notes {
  padding-left: 18px;
}
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  position: sticky;
  bottom: -32px;
  padding: 8px 0;
  background: rgb(var(--v-theme-background));
}
@media (max-width: 959px) {
  .steps {
    grid-template-columns: minmax(0, 1fr);
  }
  .doing label {
    font-size: 1.15rem;
  }
  footer {
    justify-content: space-between;
  }
}
</style>
