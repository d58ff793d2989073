<script setup lang="ts">
/** What stands beside a stage; on a phone it covers it. */
import { useDisplay } from "vuetify";

defineProps<{ label: string; title?: string | null }>();
const emit = defineEmits<{ hide: [] }>();
const { mdAndUp } = useDisplay();
</script>

<template>
  <aside class="drawer" :aria-label="label">
    <slot name="above" />
    <div v-if="title" class="head">
      <h2>{{ title }}</h2>
      <v-btn size="small" variant="text" @click="emit('hide')">
        {{ mdAndUp ? "Hide" : "Back" }}
      </v-btn>
    </div>
    <slot />
  </aside>
</template>

<style scoped>
.drawer {
  width: 308px;
  flex: none;
  overflow-y: auto;
  background: rgb(var(--v-theme-background));
  border-left: 1px solid rgb(var(--v-theme-ink), 0.25);
}
.head {
  position: sticky;
  top: 0;
  z-index: 1;
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 8px 12px;
  background: rgb(var(--v-theme-background));
}
h2 {
  font-size: 1.15rem;
}
@media (max-width: 959px) {
  .drawer {
    position: fixed;
    inset: 48px 0 0;
    width: auto;
    z-index: 5;
  }
}
</style>
