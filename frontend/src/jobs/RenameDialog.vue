<script setup lang="ts">
import { ref, watch } from "vue";

const props = defineProps<{ name: string | null }>();
const emit = defineEmits<{ rename: [name: string]; close: [] }>();
const typed = ref("");
watch(
  () => props.name,
  (name) => (typed.value = name ?? ""),
);
</script>

<template>
  <v-dialog
    :model-value="name !== null"
    max-width="440"
    aria-label="Rename the job"
    @update:model-value="emit('close')"
  >
    <v-card title="Rename the job">
      <v-card-text>
        <form id="rename" @submit.prevent="emit('rename', typed)">
          <v-text-field v-model="typed" label="Name" maxlength="60" autofocus />
        </form>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Keep {{ name }}</v-btn>
        <v-btn type="submit" form="rename" color="primary" variant="flat">Rename</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
