<script setup lang="ts">
/** Records of battery monitors: taken in, charted, held against the boat as she is designed. */
import { computed, ref, watch } from "vue";

import { useNotices } from "@/app/notices";
import { day as onDay } from "@/shared/formats";
import { megabytes } from "@/shared/units";

import CountableDays from "./CountableDays.vue";
import HeldSection from "./HeldSection.vue";
import LayoutDialog from "./LayoutDialog.vue";
import RecordChart from "./RecordChart.vue";
import { useRecords, type RecordFile } from "./useRecords";

const props = defineProps<{ jobId: string; variantId: string }>();

const notices = useNotices();
const stage = useRecords(() => props.variantId);
const { records } = stage;
const picker = ref<HTMLInputElement | null>(null);
const bank = ref("");
const busy = ref(false);
const laying = ref<RecordFile | null>(null);
const open = ref("");
/** The file that somebody asked to take out: asked once more, for its rows are gone then. */
const leaving = ref("");
const look = ref<[number, number] | null>(null);

const banks = computed(() => records.value?.banks ?? []);
const files = computed(() => records.value?.records ?? []);
const mine = computed(() => files.value.filter((one) => one.bank === bank.value));
const read = computed(() => mine.value.filter((one) => one.rows > 0));
const ends = (one: RecordFile): [number, number] => [one.start_s ?? 0, (one.end_s ?? 0) + 1];
const whole = computed<[number, number]>(() => [
  Math.min(...read.value.map((one) => ends(one)[0])),
  Math.max(...read.value.map((one) => ends(one)[1])),
]);
const rows = computed(() => mine.value.reduce((sum, one) => sum + one.rows, 0));
const recorded = computed(() => files.value.find((one) => one.rows > 0)?.bank);
watch(
  () => [banks.value, recorded.value, bank.value],
  () => {
    if (!bank.value) bank.value = recorded.value ?? banks.value[0]?.id ?? "";
    const last = read.value.at(-1);
    if (last && !look.value) look.value = ends(last);
  },
  { immediate: true },
);
const day = (s: number | null) => (s === null ? "" : onDay(s * 1000));

async function take(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  busy.value = true;
  const taken = await stage.take(file, bank.value);
  busy.value = false;
  input.value = "";
  if (!taken) return;
  if (taken.status === "done") notices.said(`${taken.name} was taken in before: nothing is added.`);
  else laying.value = taken;
}

async function start(layout: RecordFile["layout"], driven: RecordFile["driven"]) {
  const record = laying.value;
  if (record && (await stage.start(record.id, { layout, driven }))) laying.value = null;
}

async function hold(record: RecordFile) {
  open.value = open.value === record.id ? "" : record.id;
  if (open.value) look.value = ends(record);
  if (open.value && record.analysis.outdated) await stage.analyse(record.id);
}

function lookAt(start: number, end: number) {
  look.value = [start, end];
}
</script>

<template>
  <section aria-label="Records" class="block">
    <div class="row">
      <label>
        Bank with the monitor
        <select v-model="bank" class="boxed">
          <option v-for="one in banks" :key="one.id" :value="one.id">{{ one.name }}</option>
        </select>
      </label>
      <v-btn
        size="large"
        color="secondary"
        variant="flat"
        :loading="busy"
        :disabled="!bank"
        @click="picker?.click()"
      >
        Bring in records
      </v-btn>
      <input
        ref="picker"
        type="file"
        accept=".csv,.tsv,.txt,text/csv,text/plain"
        hidden
        :disabled="!bank"
        aria-label="File of records"
        @change="take"
      />
      <p>
        CSV or TSV of any battery monitor, up to 2 million rows. One file a season is best: each is
        held against the boat by itself.
      </p>
    </div>
    <RecordChart
      v-if="rows"
      :job-id="jobId"
      :bank="bank"
      :rows="rows"
      :whole="whole"
      :look="look"
    />
    <article
      v-for="one in [...mine].reverse()"
      :key="one.id"
      class="card file"
      :aria-label="one.name"
    >
      <div class="row">
        <h3>{{ one.name }}</h3>
        <p v-if="one.status === 'done'">
          {{ day(one.start_s) }} to {{ day(one.end_s) }},
          <strong>{{ one.rows.toLocaleString() }}</strong> rows<template v-if="one.doubled">
            , {{ one.doubled.toLocaleString() }} known before
          </template>
          <span v-if="one.bad" class="text-warning"> ◆ {{ one.bad }} could not be read</span>
        </p>
        <p v-else-if="one.status === 'failed'" class="text-error">▲ {{ one.problem }}</p>
        <p v-else-if="one.status === 'cancelled'">Stopped.</p>
        <p v-else-if="!one.confirmed">{{ megabytes(one.size) }}: say how it is read.</p>
        <span class="end">
          <v-btn
            v-if="one.status === 'done'"
            variant="flat"
            color="primary"
            :aria-expanded="open === one.id"
            @click="hold(one)"
          >
            {{ open === one.id ? "Close" : "Hold against this boat" }}
          </v-btn>
          <v-btn v-else-if="one.status !== 'running'" @click="laying = one">How it is read</v-btn>
          <v-btn v-if="one.confirmed && one.status === 'running'" @click="stage.cancel(one.id)"
            >Stop</v-btn
          >
          <v-btn v-if="one.status === 'done'" :href="`/api/records/${one.id}/rows.csv`" download
            >CSV</v-btn
          >
          <v-btn
            v-if="leaving !== one.id"
            :aria-label="`Take out ${one.name}`"
            @click="leaving = one.id"
            >Take out</v-btn
          >
          <template v-else>
            <v-btn color="error" variant="flat" @click="stage.remove(one.id)"
              >Take out {{ one.rows.toLocaleString() }} rows for good</v-btn
            >
            <v-btn @click="leaving = ''">Keep them</v-btn>
          </template>
        </span>
      </div>
      <v-progress-linear
        v-if="one.confirmed && (one.status === 'waiting' || one.status === 'running')"
        :model-value="100 * one.share"
        height="10"
        aria-label="Reading the rows"
      />
      <details v-if="one.problems.length || one.notes.length">
        <summary>{{ one.problems.length + one.notes.length }} lines that were not plain</summary>
        <p v-for="line in [...one.notes, ...one.problems]" :key="line">{{ line }}</p>
      </details>
      <template v-if="open === one.id">
        <v-progress-linear
          v-if="one.analysis.status === 'waiting' || one.analysis.status === 'running'"
          indeterminate
          aria-label="Running the boat through what was recorded"
        />
        <p v-if="one.analysis.problem" class="text-error">▲ {{ one.analysis.problem }}</p>
        <HeldSection v-if="one.analysis.held" :held="one.analysis.held" @look="lookAt" />
        <CountableDays
          v-if="one.analysis.counted"
          :counted="one.analysis.counted"
          :file="one.name"
        />
      </template>
    </article>
    <LayoutDialog
      v-if="records"
      :record="laying"
      :records="records"
      @close="laying = null"
      @start="start"
    />
  </section>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
label {
  font-weight: 600;
}
.file {
  margin: 10px 0;
}
.end {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-left: auto;
}
summary {
  min-height: 40px;
  padding-top: 8px;
}
</style>
