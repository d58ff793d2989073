<script setup lang="ts">
/** A reading entered with one thumb, and how each bank has gone over the years. */
import { computed, ref, watch } from "vue";

import { readNumber } from "@/shared/fields/numbers";

import TrendCard from "./TrendCard.vue";
import { day as onDay } from "@/shared/formats";
import { MARKS, type Log, type LogStage } from "./useLog";

const props = defineProps<{ log: Log; stage: LogStage; variantId: string }>();

const target = ref(props.log.targets[0]?.id ?? "");
const kindId = ref("rest_v");
const typed = ref("");
const rested = ref("");
const wrong = ref("");
const sort = computed(() => props.log.targets.find((t) => t.id === target.value)?.sort);
const readable = computed(() => props.log.targets.filter((t) => t.sort !== "device"));
const kinds = computed(() => props.log.kinds.filter((kind) => kind.on === sort.value));
const kind = computed(() => kinds.value.find((one) => one.id === kindId.value) ?? kinds.value[0]);
const readings = computed(() => props.log.entries.filter((entry) => entry.reading));
const words = (id: string | undefined) => props.log.kinds.find((one) => one.id === id);
watch(kinds, (now) => {
  if (!now.some((one) => one.id === kindId.value)) kindId.value = now[0]?.id ?? "";
});

async function keep() {
  const read = typed.value.trim().split(/\s+/).map(readNumber);
  const bad = read.find((one) => "wrong" in one);
  if (!kind.value || !typed.value.trim() || bad) {
    wrong.value = bad && "wrong" in bad ? bad.wrong : "A number is needed here";
    return;
  }
  const rest = readNumber(rested.value);
  const values = read.flatMap((one) => ("value" in one && one.value !== null ? [one.value] : []));
  const rested_h = "value" in rest ? (rest.value ?? 0) : 0;
  const reading = { kind: kind.value.id, values, rested_h, source: "" };
  if (await props.stage.enter({ kind: "reading", target: target.value, reading })) {
    typed.value = rested.value = wrong.value = "";
  }
}
</script>

<template>
  <section aria-label="Readings" class="block">
    <form class="card enter" aria-label="New reading" @submit.prevent="keep">
      <label>
        On
        <select v-model="target" class="boxed" aria-label="On">
          <option v-for="one in readable" :key="one.id" :value="one.id">{{ one.name }}</option>
        </select>
      </label>
      <label>
        What
        <select v-model="kindId" class="boxed" aria-label="What">
          <option v-for="one in kinds" :key="one.id" :value="one.id">{{ one.words }}</option>
        </select>
      </label>
      <label class="value">
        Read
        <span class="boxed box">
          <input v-model="typed" inputmode="decimal" autocomplete="off" aria-label="Read" />
          <b>{{ kind?.unit }}</b>
        </span>
      </label>
      <label v-if="kind?.id === 'rest_v'" class="value">
        Rested
        <span class="boxed box">
          <input v-model="rested" inputmode="decimal" autocomplete="off" aria-label="Rested" />
          <b>h</b>
        </span>
      </label>
      <v-btn
        type="submit"
        size="x-large"
        color="secondary"
        variant="flat"
        :loading="stage.sending.value"
      >
        Keep the reading
      </v-btn>
      <p class="how">{{ kind?.how }}</p>
      <p v-if="wrong" class="text-error" role="alert">▲ {{ wrong }}</p>
    </form>
    <p v-if="!log.trends.length">
      No readings yet. What is read once a season tells years later when a bank began to fail.
    </p>
    <div class="trends">
      <TrendCard v-for="trend in log.trends" :key="trend.target + trend.kind.id" :trend="trend" />
    </div>
    <template v-if="readings.length">
      <div class="head">
        <h2>All readings</h2>
        <v-btn size="small" :href="`/api/variants/${variantId}/log/readings.csv`" download>
          CSV
        </v-btn>
      </div>
      <ul class="all">
        <li v-for="entry in readings" :key="entry.id">
          <span :class="`text-${MARKS[entry.judgement?.mark ?? 'unknown']?.color}`">
            {{ MARKS[entry.judgement?.mark ?? "unknown"]?.mark }}
          </span>
          <strong>
            {{ entry.reading?.values.join(" ") }} {{ words(entry.reading?.kind)?.unit }}
          </strong>
          <span
            >{{ entry.target_name || entry.target }}, {{ words(entry.reading?.kind)?.words }}</span
          >
          <span>{{ entry.judgement?.why }}</span>
          <small>{{ onDay(entry.at) }} {{ entry.author }} {{ entry.reading?.source }}</small>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.enter {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  align-items: end;
}
label {
  font-weight: 600;
}
.boxed {
  min-width: 150px;
  min-height: 52px;
  font-size: 1.05rem;
}
.box {
  display: flex;
  align-items: center;
}
.value .box {
  width: 150px;
}
input {
  width: 100%;
  min-width: 0;
  padding: 0;
  font-size: 1.4rem;
  font-weight: 700;
  color: inherit;
  background: none;
  border: 0;
  outline: none;
}
.box:focus-within {
  outline: 3px solid rgb(var(--v-theme-secondary));
}
.how {
  flex-basis: 100%;
}
.trends {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(320px, 1fr));
  gap: 14px;
  margin: 14px 0;
}
.head {
  display: flex;
  gap: 16px;
  align-items: center;
}
.all {
  list-style: none;
  padding: 0;
}
.all li {
  display: grid;
  grid-template-columns: 22px 110px minmax(150px, 1fr) minmax(200px, 2fr) auto;
  gap: 10px;
  padding: 8px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
@media (max-width: 959px) {
  .all li {
    grid-template-columns: 22px 1fr;
  }
  .all li > :nth-child(n + 3) {
    grid-column: 2;
  }
  .trends {
    grid-template-columns: minmax(0, 1fr);
  }
  .enter label,
  select {
    flex: 1 1 100%;
    width: 100%;
  }
}
</style>
