<script setup lang="ts">
/** Causes by all readings, the likeliest first, and the one reading that tells most next. */
import { computed, onMounted, ref, shallowRef, watch } from "vue";

import type { Schemas } from "@/api/client";
import { percent } from "@/shared/units";

import KeyPad from "./KeyPad.vue";
import type { Prove, useProve } from "./useProve";

const props = defineProps<{ prove: Prove; stage: ReturnType<typeof useProve> }>();

const found = shallowRef<Schemas["DiagnosisOut"] | null>(null);
const asking = ref(false);
const typed = ref("");
/** The miss that is looked into; all readings together without. */
const about = ref("");
const next = computed(() => found.value?.next ?? null);
async function look() {
  asking.value = true;
  found.value = (await props.stage.diagnose(about.value)) ?? found.value;
  asking.value = false;
}

async function read(value: number, instrument = "") {
  const target = next.value?.key;
  if (!target) return;
  const kept = await props.stage.enter({ kind: "reading", target, reading: { value, instrument } });
  if (!kept) return;
  typed.value = "";
  await look();
}

async function take() {
  asking.value = true;
  const shown = await props.stage.fromMeter(next.value?.key ?? "");
  asking.value = false;
  if (shown) await read(shown.value, shown.instrument);
}

watch(about, look);
onMounted(look);
</script>

<template>
  <section aria-label="Find the fault" class="block">
    <v-progress-linear v-if="asking" indeterminate aria-label="Weighing the causes" />
    <p v-if="!found && asking">Every cause is computed in every state that was read.</p>
    <template v-if="found">
      <p v-if="!found.readings.length">
        No readings yet. Enter the complaint as a reading: open the test that is about it under
        <strong>All tests</strong>, and measure; or begin with the reading below.
      </p>
      <label v-if="found.misses.length > 1" class="about">
        Look into
        <select v-model="about">
          <option value="">all readings together, as one fault</option>
          <option v-for="miss in found.misses" :key="miss.key" :value="miss.key">
            {{ miss.title }}
          </option>
        </select>
      </label>
      <p v-for="line in found.odd" :key="line" class="text-error">▲ {{ line }}</p>
      <div class="two">
        <article v-if="next" class="card next" aria-label="Next reading">
          <p><strong>Read next</strong>, {{ next.minutes }} min: it parts the causes best.</p>
          <h2>{{ next.title }}</h2>
          <p v-if="next.caution" class="text-error caution">▲ {{ next.caution }}</p>
          <ul class="setup" aria-label="State now">
            <li v-for="line in next.setup" :key="line">{{ line }}</li>
          </ul>
          <p class="how">{{ next.how }}</p>
          <ul class="means" aria-label="What each answer would mean">
            <li v-for="one in found.means" :key="one.words">
              <strong>{{ one.value.toFixed(2) }} {{ next.unit }}</strong> {{ one.words }}
            </li>
          </ul>
          <KeyPad
            v-model="typed"
            :unit="next.unit"
            :busy="asking || stage.sending.value"
            @enter="read"
          />
          <v-btn
            v-if="prove.live_meter"
            class="take"
            size="large"
            :disabled="asking || stage.sending.value"
            @click="take"
          >
            Take it from the meter
          </v-btn>
        </article>
        <p v-else>No further reading tells more about these causes.</p>
        <div>
          <h2>{{ found.found ? "Found" : "Causes" }}</h2>
          <ol class="causes">
            <li v-for="cause in found.causes" :key="cause.keys[0]" class="card">
              <div class="bar" :style="{ width: `${100 * cause.share}%` }" aria-hidden="true" />
              <p class="share">
                <strong>{{ percent(cause.share) }}</strong>
                {{ cause.words[0] }}
              </p>
              <details v-if="cause.words.length > 1">
                <summary>
                  {{ cause.words.length - 1 }} more that no reading so far can part from it
                </summary>
                <ul>
                  <li v-for="words in cause.words.slice(1)" :key="words">{{ words }}</li>
                </ul>
              </details>
              <p v-if="cause.cure"><strong>Cure:</strong> {{ cause.cure }}.</p>
              <details v-if="cause.speaks.length">
                <summary>What speaks for and against it: {{ cause.speaks.length }}</summary>
                <ul>
                  <li v-for="line in cause.speaks" :key="line">{{ line }}</li>
                </ul>
              </details>
            </li>
          </ol>
          <h2>Readings: {{ found.readings.length }}</h2>
          <ul>
            <li v-for="one in found.readings.slice(0, 40)" :key="one.key">
              <strong>{{ one.value }} {{ one.unit }}</strong> {{ one.title }}
            </li>
          </ul>
          <p class="care">
            Shares of belief rest on single causes as they are usually met; own judgement. Where two
            things are wrong at once, look into one miss at a time. Cure what is likeliest, then
            read the same again: only that proves it.
          </p>
        </div>
      </div>
    </template>
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(300px, 460px) minmax(0, 1fr);
  gap: 20px;
  align-items: start;
}
.next h2 {
  font-size: 1.35rem;
  line-height: 1.2;
}
.about select {
  min-height: 44px;
  max-width: 100%;
  padding: 4px 10px;
  border: 1px solid rgb(var(--v-theme-ink), 0.4);
  border-radius: 8px;
  color: inherit;
}
.caution,
.how {
  font-weight: 700;
  margin: 6px 0;
}
.setup {
  list-style: none;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
.means {
  padding-left: 18px;
  margin: 6px 0;
}
.take {
  margin-top: 8px;
}
.causes {
  list-style: none;
  padding: 0;
}
.causes .card {
  position: relative;
  overflow: hidden;
  padding-top: 10px;
}
.bar {
  position: absolute;
  top: 0;
  left: 0;
  height: 6px;
  background: rgb(var(--v-theme-warning));
}
.share {
  font-size: 1.1rem;
}
.share strong {
  font-size: 1.3rem;
  margin-right: 6px;
}
summary {
  min-height: 40px;
  padding-top: 8px;
}
@media (max-width: 959px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
