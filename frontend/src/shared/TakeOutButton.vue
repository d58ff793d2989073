<script setup lang="ts">
import { mdiClose } from "@mdi/js";

defineProps<{ what: string }>();
</script>

<template>
  <v-btn
    :icon="mdiClose"
    size="small"
    variant="text"
    :aria-label="`Take out ${what}`"
    :title="`Take out ${what}`"
  />
</template>
