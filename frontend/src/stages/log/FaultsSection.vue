<script setup lang="ts">
/** Faults from the complaint to the proof; what is said later is added to the same fault. */
import { computed, reactive, ref } from "vue";

import CuredForm from "./CuredForm.vue";
import { type Log, type LogEntry, type LogStage } from "./useLog";
import WordsField from "./WordsField.vue";
import { day as onDay } from "@/shared/formats";

const props = defineProps<{ log: Log; stage: LogStage }>();

const FIELDS = [
  { name: "complaint", label: "Complaint" },
  { name: "theories", label: "Theories" },
  { name: "cause", label: "Cause" },
  { name: "cure", label: "Cure" },
  { name: "proof", label: "Proof: what was read after it" },
] as const;
const empty = () => ({ complaint: "", theories: "", cause: "", cure: "", proof: "" });
const told = reactive(empty());
const target = ref("boat");
/** The fault that more is said of; a new one without. */
const of = ref<LogEntry | null>(null);
const ended = computed(() => props.log.entries.filter((e) => e.fault && !e.open));

function tell(entry: LogEntry) {
  of.value = entry;
  Object.assign(told, entry.fault);
}
function begin() {
  of.value = null;
  Object.assign(told, empty());
}
async function keep() {
  const about = of.value?.id ?? target.value;
  if (await props.stage.enter({ kind: "fault", target: about, fault: { ...told } })) begin();
}
</script>

<template>
  <section aria-label="Faults" class="block">
    <article v-for="entry in log.open_faults" :key="entry.id" class="card open">
      <p class="line">
        <strong>▲ {{ entry.fault?.complaint }}</strong>
        {{ entry.target_name }}, since {{ onDay(entry.at) }}
      </p>
      <template v-for="field in FIELDS.slice(1)" :key="field.name">
        <p v-if="entry.fault?.[field.name]">
          <strong>{{ field.label }}:</strong> {{ entry.fault[field.name] }}
        </p>
      </template>
      <div class="row">
        <v-btn @click="tell(entry)">Say more</v-btn>
      </div>
      <CuredForm :entry="entry" :stage="stage" ask="How it was cured and proved" />
    </article>
    <p v-if="!log.open_faults.length" class="text-success">✓ No fault is open.</p>
    <form class="card" :aria-label="of ? 'More of a fault' : 'New fault'" @submit.prevent="keep">
      <h2>{{ of ? "More of this fault" : "New fault" }}</h2>
      <label v-if="!of">
        On
        <select v-model="target" class="boxed">
          <option value="boat">the whole boat</option>
          <option v-for="one in log.targets" :key="one.id" :value="one.id">{{ one.name }}</option>
        </select>
      </label>
      <WordsField
        v-for="field in FIELDS"
        :key="field.name"
        v-model="told[field.name]"
        :label="field.label"
        :rows="2"
        :needed="field.name === 'complaint'"
      />
      <p>
        Prove finds causes from readings (<strong>Find the fault</strong>); a repair that changes
        the boat is a change on Scheme or Runs.
      </p>
      <div class="row">
        <v-btn
          type="submit"
          size="large"
          color="secondary"
          variant="flat"
          :disabled="!told.complaint.trim()"
          :loading="stage.sending.value"
        >
          Keep the fault
        </v-btn>
        <v-btn v-if="of" @click="begin">Leave it</v-btn>
      </div>
    </form>
    <template v-if="ended.length">
      <h2>Cured</h2>
      <ul class="all">
        <li v-for="entry in ended" :key="entry.id">
          <strong>{{ entry.fault?.complaint }}</strong> {{ entry.fault?.cause }}
          <p class="text-success">
            ✓ {{ onDay(entry.ended ?? entry.at) }}: {{ entry.ended_words }}
          </p>
        </li>
      </ul>
    </template>
  </section>
</template>

<style src="./forms.css" scoped></style>
