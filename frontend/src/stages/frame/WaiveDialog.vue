<script setup lang="ts">
/** Answering for a finding: with a reason, a name and a date, all of them printed. */
import { ref } from "vue";

import { useScheme } from "@/documents/schemeStore";
import { SEVERITIES } from "@/shared/severity";

import type { Finding } from "./findings";

const props = defineProps<{ finding: Finding }>();
const emit = defineEmits<{ close: [] }>();

const schemes = useScheme();
const reason = ref("");
const wrong = ref("");

async function keep() {
  if (reason.value.trim().length < 3) {
    wrong.value = "Say why, in a few words at least";
    return;
  }
  if (await schemes.waive(props.finding.key, reason.value.trim())) emit("close");
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="560"
    aria-label="Waive a finding"
    @update:model-value="emit('close')"
  >
    <v-card title="Waive this finding">
      <v-card-text>
        <p>
          <strong :class="`text-${SEVERITIES[finding.severity].color}`">
            {{ SEVERITIES[finding.severity].mark }} {{ finding.rule }}
          </strong>
          {{ finding.title }}
        </p>
        <p v-if="finding.severity === 'danger'" class="text-error">
          ▲ This can hurt or strand somebody. A waiver does not make it safe.
        </p>
        <label for="waive-reason">Why it may stay as it is</label>
        <textarea
          id="waive-reason"
          v-model="reason"
          rows="3"
          maxlength="1000"
          autofocus
          :aria-invalid="wrong !== ''"
        ></textarea>
        <p v-if="wrong" class="text-error">▲ {{ wrong }}</p>
        <p>Your name and today's date are kept with it, and it is printed on the report.</p>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Do not waive</v-btn>
        <v-btn color="secondary" variant="flat" @click="keep">Waive it</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
label {
  display: block;
  margin-top: 10px;
  font-weight: 600;
}
textarea {
  width: 100%;
  padding: 8px;
  font: inherit;
  color: inherit;
  border: 1px solid rgb(var(--v-theme-ink), 0.4);
  border-radius: 8px;
}
</style>
