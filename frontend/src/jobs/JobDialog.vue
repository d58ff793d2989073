<script setup lang="ts">
/** What is kept of a job beside its survey: its name, whose boat it is, how they are reached. */
import { ref, watch } from "vue";

import type { Schemas } from "@/api/client";

const props = defineProps<{ job: Schemas["JobOut"] | null }>();
const emit = defineEmits<{ keep: [fields: Partial<Schemas["JobIn"]>]; close: [] }>();
const name = ref("");
const owner = ref("");
const contact = ref("");
watch(
  () => props.job,
  (job) => {
    name.value = job?.name ?? "";
    owner.value = job?.owner ?? "";
    contact.value = job?.contact ?? "";
  },
);

function keep() {
  emit("keep", { name: name.value, owner: owner.value, contact: contact.value });
}
</script>

<template>
  <v-dialog
    :model-value="job !== null"
    max-width="480"
    aria-label="Name and owner"
    @update:model-value="emit('close')"
  >
    <v-card title="Name and owner">
      <v-card-text>
        <form id="job" @submit.prevent="keep">
          <v-text-field v-model="name" label="Name of the boat" maxlength="60" autofocus />
          <v-text-field v-model="owner" label="Owner" maxlength="120" />
          <v-textarea
            v-model="contact"
            label="How the owner is reached: telephone, mail, berth"
            maxlength="400"
            rows="3"
          />
        </form>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Leave it as it is</v-btn>
        <v-btn type="submit" form="job" color="primary" variant="flat" :disabled="!name.trim()">
          Keep
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
