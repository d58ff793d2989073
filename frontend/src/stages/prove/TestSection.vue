<script setup lang="ts">
/** One test a screen: what to set, where to hold the meter, what it should show, the verdict. */
import { computed, ref, watch } from "vue";
import { useDisplay } from "vuetify";

import { useAwake } from "@/aboard/useAwake";
import { dayAndHour } from "@/shared/formats";

import KeyPad from "./KeyPad.vue";
import { ANSWERS, type Prove, type useProve } from "./useProve";

const props = defineProps<{ prove: Prove; stage: ReturnType<typeof useProve> }>();
const at = defineModel<string>("at", { required: true });

useAwake();
const { mdAndUp } = useDisplay();
const typed = ref("");
const words = ref("");
const asking = ref(false);
/** What became of the test before: it stays on the screen when the next one comes by itself. */
const before = ref<{ title: string; key: string } | null>(null);

const tests = computed(() => props.prove.tests);
const index = computed(() =>
  Math.max(
    0,
    tests.value.findIndex((test) => test.key === at.value),
  ),
);
const test = computed(() => tests.value[index.value]);
const state = computed(() => props.prove.states[test.value?.key ?? ""]);
const answer = computed(() => ANSWERS[state.value?.answer ?? "open"]);
const last = computed(() => state.value?.entries.find((entry) => entry.kind !== "note"));
const range = computed(() => {
  const wanted = test.value?.wanted;
  return wanted ? `${wanted.low.toFixed(2)} to ${wanted.high.toFixed(2)} ${test.value?.unit}` : "";
});
/** What has to be set since the test before, and what stands as it did. */
const was = computed(() => new Set(tests.value[index.value - 1]?.setup ?? []));
const fresh = computed(() => (test.value?.setup ?? []).filter((line) => !was.value.has(line)));
const same = computed(() => (test.value?.setup ?? []).filter((line) => was.value.has(line)));
const meter = computed(() =>
  props.prove.meters.find((one) => one.id === test.value?.wanted?.instrument),
);
watch(at, () => {
  typed.value = "";
  words.value = "";
});

function go(by: number) {
  before.value = null;
  at.value = tests.value[index.value + by]?.key ?? at.value;
}

/** What is well goes on by itself; what is not stays, with what it points to. */
function goOn(after: Prove | null) {
  const one = test.value;
  if (!after || !one) return;
  typed.value = "";
  words.value = "";
  const found = after.states[one.key]?.answer;
  if (found !== "within" && found !== "yes" && found !== "waived") return;
  before.value = { title: one.title, key: one.key };
  at.value = tests.value[index.value + 1]?.key ?? one.key;
}

async function read(value: number, instrument = meter.value?.name ?? "") {
  const target = test.value?.key ?? "";
  goOn(await props.stage.enter({ kind: "reading", target, reading: { value, instrument } }));
}

async function take() {
  asking.value = true;
  const shown = await props.stage.fromMeter(test.value?.key ?? "");
  asking.value = false;
  if (shown) await read(shown.value, shown.instrument);
}

const look = async (seen: boolean) =>
  goOn(await props.stage.enter({ kind: "look", target: test.value?.key ?? "", seen }));
const say = async (kind: "note" | "waived") =>
  goOn(await props.stage.enter({ kind, target: test.value?.key ?? "", text: words.value.trim() }));
</script>

<template>
  <article v-if="test" class="test" aria-label="Test">
    <p v-if="before" class="before text-success" role="status">
      {{ ANSWERS[prove.states[before.key]?.answer ?? "open"].mark }}
      {{ ANSWERS[prove.states[before.key]?.answer ?? "open"].word }}: {{ before.title }}
    </p>
    <header>
      <p class="where">
        Test {{ index + 1 }} of {{ tests.length }} · {{ prove.groups[test.group] }}
        <template v-if="test.place"> · {{ test.place }}</template>
      </p>
      <h2>{{ test.title }}</h2>
    </header>
    <p v-if="test.caution" class="caution text-error">▲ {{ test.caution }}</p>
    <div v-if="test.setup.length" class="setup" aria-label="State now">
      <strong>State now</strong>
      <ul v-if="fresh.length" class="now">
        <li v-for="line in fresh" :key="line">▸ {{ line }}</li>
      </ul>
      <details v-if="same.length" :open="mdAndUp">
        <summary>As before: {{ same.length }}</summary>
        <ul>
          <li v-for="line in same" :key="line">{{ line }}</li>
        </ul>
      </details>
    </div>
    <p v-if="test.how" class="how">{{ test.how }}</p>
    <p class="wanted">
      <small>{{ test.wanted ? "Should read" : "Should be" }}</small>
      <strong :class="{ words: !test.wanted }">{{ range || test.expects }}</strong>
    </p>
    <p v-if="test.proves_nothing" class="text-warning">◆ {{ test.proves_nothing }}.</p>
    <p v-if="last" class="verdict" :class="`text-${answer.color}`" role="status">
      <strong>{{ answer.mark }} {{ answer.word }}</strong>
      {{ last.verdict?.why ?? last.text ?? "" }}
      <small v-if="last.outdated">◆ on an earlier revision of the design</small>
    </p>
    <div v-if="last && answer.color !== 'success' && test.misses.length" class="misses">
      <strong>A miss points to:</strong>
      <ul>
        <li v-for="miss in test.misses" :key="miss">{{ miss }}</li>
      </ul>
    </div>
    <div v-if="test.wanted" class="entry">
      <KeyPad v-model="typed" :unit="test.unit" :busy="stage.sending.value" @enter="read" />
      <v-btn
        v-if="prove.live_meter"
        class="take"
        size="large"
        :loading="asking || stage.sending.value"
        @click="take"
      >
        Take it from the meter
      </v-btn>
    </div>
    <div v-else class="looks">
      <v-btn
        size="x-large"
        color="secondary"
        variant="flat"
        :loading="stage.sending.value"
        @click="look(true)"
      >
        ✓ As it should be
      </v-btn>
      <v-btn size="x-large" :disabled="stage.sending.value" @click="look(false)">▲ Not so</v-btn>
    </div>
    <details>
      <summary>Note, waive, history ({{ state?.entries.length ?? 0 }})</summary>
      <form class="say" @submit.prevent="say('note')">
        <label for="test-words">Note, or why it is waived</label>
        <input id="test-words" v-model="words" type="text" maxlength="1000" />
        <v-btn type="submit" :disabled="!words.trim()">Keep the note</v-btn>
        <v-btn :disabled="!words.trim()" @click="say('waived')">Waive the test</v-btn>
      </form>
      <ul aria-label="History of readings">
        <li v-for="entry in state?.entries" :key="entry.id">
          <strong v-if="entry.reading">{{ entry.reading.value }} {{ test.unit }}</strong>
          <strong v-else-if="entry.kind === 'look'">{{ entry.seen ? "yes" : "no" }}</strong>
          {{ entry.text }} <small>{{ entry.verdict?.word }}</small>
          <small>
            {{ dayAndHour(entry.at) }}, {{ entry.author ?? "unknown" }}
            {{ entry.reading?.instrument }}
          </small>
        </li>
      </ul>
    </details>
    <footer>
      <v-btn :disabled="index === 0" @click="go(-1)">Back</v-btn>
      <v-btn :disabled="index === tests.length - 1" @click="go(1)">Next</v-btn>
    </footer>
  </article>
</template>

<style scoped>
.test {
  display: grid;
  grid-template-columns: minmax(0, 620px) minmax(280px, 420px);
  grid-auto-rows: min-content;
  column-gap: 28px;
}
.test > * {
  grid-column: 1;
}
.entry {
  grid-column: 2;
  grid-row: 2 / span 12;
}
@media (max-width: 959px) {
  .test {
    grid-template-columns: minmax(0, 1fr);
  }
  .entry {
    grid-column: 1;
    grid-row: auto;
  }
}
.before {
  font-weight: 700;
}
h2 {
  font-size: 1.5rem;
  line-height: 1.2;
}
.caution,
.how {
  font-weight: 700;
  margin: 6px 0;
}
.how {
  font-size: 1.15rem;
}
.setup {
  border: 2px solid rgb(var(--v-theme-ink), 0.35);
  border-radius: 10px;
  padding: 4px 12px;
  margin: 8px 0;
}
.setup ul {
  list-style: none;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
.now {
  font-weight: 800;
  font-size: 1.15rem;
}
.setup summary {
  min-height: 32px;
  padding-top: 4px;
}
.wanted small {
  display: block;
}
.wanted strong {
  font-size: 1.9rem;
  line-height: 1.2;
  font-variant-numeric: tabular-nums;
}
.wanted .words {
  font-size: 1.25rem;
}
.verdict strong {
  display: block;
  font-size: 1.5rem;
}
.take {
  margin-top: 8px;
}
.looks {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 12px;
  margin: 12px 0;
  max-width: 520px;
}
.say {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin: 8px 0;
}
.say input {
  flex: 1 1 220px;
  min-height: 48px;
  color: inherit;
  border: 1px solid rgb(var(--v-theme-ink), 0.4);
  border-radius: 8px;
  padding: 4px 10px;
}
summary {
  min-height: 48px;
  padding-top: 10px;
}
footer {
  display: flex;
  justify-content: space-between;
  max-width: 520px;
  margin-top: 8px;
}
</style>
