<script setup lang="ts">
/** Another boat that begins as this one stands. */
import { ref, watch } from "vue";

import type { Schemas } from "@/api/client";
import FormDialog from "@/shared/FormDialog.vue";

const props = defineProps<{ job: Schemas["JobOut"] | null }>();
const emit = defineEmits<{ begin: [name: string]; close: [] }>();
const name = ref("");
watch(
  () => props.job,
  () => (name.value = ""),
);
</script>

<template>
  <FormDialog
    :open="job !== null"
    title="Another boat like this one"
    confirm="Begin"
    leave="Leave it"
    :ready="!!name.trim()"
    @confirm="emit('begin', name)"
    @close="emit('close')"
  >
    <p class="mb-4">
      It begins as {{ job?.name }} stands, with all variants. Every figure is marked as assumed and
      every length as estimated until it is read aboard; readings, photographs, waivers and work
      done are not taken over.
    </p>
    <v-text-field v-model="name" label="Name of the new boat" maxlength="60" autofocus />
  </FormDialog>
</template>
