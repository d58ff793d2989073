<script setup lang="ts">
/** A switch as the owner sees it: its name, where it stands in large words, where it is. */
import type { Schemas } from "@/api/client";

defineProps<{ shown: Schemas["SwitchAt"] }>();
</script>

<template>
  <div class="face">
    <small>{{ shown.name }}</small>
    <strong>{{ shown.mark }}</strong>
    <small v-if="shown.place">{{ shown.place }}</small>
  </div>
</template>

<style scoped>
.face {
  display: grid;
  justify-items: center;
  min-width: 96px;
  padding: 6px 12px;
  border: 2px solid rgb(var(--v-theme-ink), 0.6);
  border-radius: 14px;
}
strong {
  font-size: 1.6rem;
  line-height: 1.15;
}
</style>
