<script setup lang="ts">
import type { Schemas } from "@/api/client";

defineProps<{ job: Schemas["JobOut"] | null; variant: string }>();
</script>

<template>
  <nav class="variants" aria-label="Variants">
    <router-link
      v-for="v in job?.variants"
      :key="v.id"
      :to="{ name: 'scheme', params: { jobId: job?.id, variantId: v.id } }"
      :class="{ here: v.id === variant }"
    >
      {{ v.name }}
    </router-link>
  </nav>
</template>

<style scoped>
.variants {
  display: flex;
  gap: 6px;
  overflow-x: auto;
}
a {
  color: inherit;
  text-decoration: none;
  border: 1px solid currentColor;
  border-radius: 99px;
  padding: 5px 12px;
  white-space: nowrap;
}
.here {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-on-primary));
  font-weight: 700;
}
:global(.v-app-bar .variants .here) {
  background: rgb(var(--v-theme-on-bar));
  color: rgb(var(--v-theme-bar));
}
</style>
