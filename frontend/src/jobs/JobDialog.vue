<script setup lang="ts">
/** What is kept of a job beside its survey: its name, whose boat it is, how they are reached. */
import { ref, watch } from "vue";

import type { Schemas } from "@/api/client";
import FormDialog from "@/shared/FormDialog.vue";

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
</script>

<template>
  <FormDialog
    :open="job !== null"
    title="Name and owner"
    confirm="Keep"
    leave="Leave it as it is"
    :ready="!!name.trim()"
    @confirm="emit('keep', { name, owner, contact })"
    @close="emit('close')"
  >
    <v-text-field v-model="name" label="Name of the boat" maxlength="60" autofocus />
    <v-text-field v-model="owner" label="Owner" maxlength="120" />
    <v-textarea
      v-model="contact"
      variant="outlined"
      label="How the owner is reached: telephone, mail, berth"
      maxlength="400"
      rows="3"
    />
  </FormDialog>
</template>
