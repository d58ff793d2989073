<script setup lang="ts">
/** What is picked on the drawing: a cable or a part. */
import { mdiClose } from "@mdi/js";
import { computed } from "vue";

import { useScheme } from "@/documents/schemeStore";
import PhotosFold from "@/stages/build/PhotosFold.vue";

import PickedCable from "./PickedCable.vue";
import PickedPart from "./PickedPart.vue";
import { usePicking } from "./picking";

const schemes = useScheme();
const picking = usePicking();

const cable = computed(() => {
  const at = picking.picked;
  if (at?.kind !== "cable") return null;
  return schemes.scheme?.design.cables.find((c) => c.id === at.id) ?? null;
});
const part = computed(() => {
  const at = picking.picked;
  if (at?.kind !== "part") return null;
  return schemes.scheme?.design.components.find((p) => p.id === at.id) ?? null;
});
const name = computed(() =>
  cable.value ? (schemes.scheme?.cable_names[cable.value.id] ?? "") : (part.value?.name ?? ""),
);
const id = computed(() => cable.value?.id ?? part.value?.id ?? "");
</script>

<template>
  <aside v-if="cable || part" class="sheet" aria-label="Picked">
    <header>
      <h3>{{ name }}</h3>
      <v-btn :icon="mdiClose" size="small" aria-label="Put down" @click="picking.drop()" />
    </header>
    <PickedCable v-if="cable" :cable="cable" />
    <PickedPart v-else-if="part" :part="part" />
    <PhotosFold
      v-if="!picking.moving"
      :key="id"
      :target="id"
      :words="name"
      :what="cable ? 'cable' : 'part'"
    />
  </aside>
</template>

<style scoped>
.sheet {
  overflow-y: auto;
  padding: 10px 14px 12px;
  margin: 8px;
  border: 2px solid rgb(var(--v-theme-secondary));
  border-radius: 12px;
  background: rgb(var(--v-theme-surface));
  color: rgb(var(--v-theme-on-surface));
}
@media (max-width: 959px) {
  .sheet {
    position: absolute;
    inset: auto 0 0;
    max-height: 55%;
    box-shadow: 0 0 18px rgb(0 0 0 / 0.3);
  }
}
header {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
h3 {
  font-size: 1.05rem;
}
</style>
