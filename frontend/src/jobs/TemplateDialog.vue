<script setup lang="ts">
/** Another boat that begins as this one stands. */
import { ref, watch } from "vue";

import type { Schemas } from "@/api/client";

const props = defineProps<{ job: Schemas["JobOut"] | null }>();
const emit = defineEmits<{ begin: [name: string]; close: [] }>();
const name = ref("");
watch(
  () => props.job,
  () => (name.value = ""),
);
</script>

<template>
  <v-dialog
    :model-value="job !== null"
    max-width="480"
    aria-label="Another boat like this one"
    @update:model-value="emit('close')"
  >
    <v-card title="Another boat like this one">
      <v-card-text>
        <p>
          It begins as {{ job?.name }} stands, with all variants. Every figure is marked as assumed
          and every length as estimated until it is read aboard; readings, photographs, waivers and
          work done are not taken over.
        </p>
        <form id="template" class="mt-4" @submit.prevent="emit('begin', name)">
          <v-text-field v-model="name" label="Name of the new boat" maxlength="60" autofocus />
        </form>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Leave it</v-btn>
        <v-btn
          type="submit"
          form="template"
          color="primary"
          variant="flat"
          :disabled="!name.trim()"
        >
          Begin
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
