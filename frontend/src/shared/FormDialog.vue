<script setup lang="ts">
/** A few questions over the page: answered and confirmed together, or left alone. */
import { useId } from "vue";

defineProps<{
  open: boolean;
  title: string;
  /** What confirming does, and what leaving does. */
  confirm: string;
  leave: string;
  /** Whether there is enough to confirm. */
  ready: boolean;
  busy?: boolean;
  width?: number;
}>();
const emit = defineEmits<{ confirm: []; close: [] }>();
const form = useId();
</script>

<template>
  <v-dialog
    :model-value="open"
    scrollable
    :max-width="width ?? 480"
    :aria-label="title"
    @update:model-value="emit('close')"
  >
    <v-card :title="title">
      <v-card-text>
        <form :id="form" class="pt-2" @submit.prevent="emit('confirm')">
          <slot />
        </form>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">{{ leave }}</v-btn>
        <v-btn
          type="submit"
          :form="form"
          color="primary"
          variant="flat"
          :loading="busy"
          :disabled="!ready"
        >
          {{ confirm }}
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
