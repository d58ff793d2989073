<script setup lang="ts">
/** What was set on which device, when and why; what only stands in for a cure stays open. */
import { computed, reactive, ref } from "vue";

import CuredForm from "./CuredForm.vue";
import { type Log, type LogStage } from "./useLog";
import WordsField from "./WordsField.vue";
import { day as onDay } from "@/shared/formats";

const props = defineProps<{ log: Log; stage: LogStage }>();

const devices = computed(() => props.log.targets.filter((t) => t.sort === "device"));
const target = ref(devices.value[0]?.id ?? "");
const empty = () => ({ name: "", old: "", new: "", why: "", crutch: false, cause: "" });
const setting = reactive(empty());
const all = computed(() => props.log.entries.filter((entry) => entry.setting));
const ready = computed(
  () => setting.name.trim() && setting.new.trim() && setting.why.trim() && target.value,
);

async function keep() {
  const kept = await props.stage.enter({
    kind: "setting",
    target: target.value,
    setting: { ...setting },
  });
  if (kept) Object.assign(setting, empty());
}
</script>

<template>
  <section aria-label="Settings" class="block">
    <template v-if="log.open_settings.length">
      <h2 class="text-warning">◆ These stand in for a cure</h2>
      <article v-for="entry in log.open_settings" :key="entry.id" class="card open">
        <p class="line">
          <strong>{{ entry.target_name }}: {{ entry.setting?.name }}</strong>
          {{ entry.setting?.old || "?" }} → {{ entry.setting?.new }}, {{ onDay(entry.at) }}
        </p>
        <p>{{ entry.setting?.why }}</p>
        <p v-if="entry.setting?.cause"><strong>Cause to cure:</strong> {{ entry.setting.cause }}</p>
        <CuredForm
          :entry="entry"
          :stage="stage"
          ask="How the cause was cured, and the setting put back"
        />
      </article>
    </template>
    <form class="card" aria-label="New setting" @submit.prevent="keep">
      <div class="row">
        <label>
          Device
          <select v-model="target" class="boxed">
            <option v-for="one in devices" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select>
        </label>
        <WordsField v-model="setting.name" label="Setting" needed />
        <WordsField v-model="setting.old" label="Was, with unit" />
        <WordsField v-model="setting.new" label="Is now, with unit" needed />
      </div>
      <WordsField v-model="setting.why" label="Why" :rows="2" needed />
      <label class="check">
        <input v-model="setting.crutch" type="checkbox" />
        It only stands in for a cure: keep it open
      </label>
      <WordsField v-if="setting.crutch" v-model="setting.cause" label="Cause to cure" :rows="2" />
      <v-btn
        type="submit"
        size="large"
        color="secondary"
        variant="flat"
        :disabled="!ready"
        :loading="stage.sending.value"
      >
        Keep the setting
      </v-btn>
    </form>
    <h2>All settings</h2>
    <p v-if="!all.length">None yet. The design holds what is set now; here stands why.</p>
    <ul class="all">
      <li v-for="entry in all" :key="entry.id">
        <strong>{{ entry.target_name || entry.target }}: {{ entry.setting?.name }}</strong>
        {{ entry.setting?.old || "?" }} → {{ entry.setting?.new }}. {{ entry.setting?.why }}
        <small>{{ onDay(entry.at) }} {{ entry.author }}</small>
        <p v-if="entry.ended" class="text-success">
          ✓ Closed {{ onDay(entry.ended) }}: {{ entry.ended_words }}
        </p>
      </li>
    </ul>
  </section>
</template>

<style src="./forms.css" scoped></style>
