<script setup lang="ts">
/** What is picked on the drawing: a cable or a part. */
import { mdiClose } from "@mdi/js";
import { computed, ref, watch } from "vue";

import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import PhotosOf from "@/stages/build/PhotosOf.vue";

import PickedCable from "./PickedCable.vue";
import PickedPart from "./PickedPart.vue";
import { usePicking } from "./picking";

const schemes = useScheme();
const picking = usePicking();
const open = useOpenJob();
/** Photographs are asked for only when somebody wants to see them. */
const photographs = ref(false);

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
watch(id, () => (photographs.value = false));
</script>

<template>
  <aside v-if="cable || part" class="sheet" aria-label="Picked">
    <header>
      <h3>{{ name }}</h3>
      <v-btn :icon="mdiClose" size="small" aria-label="Put down" @click="picking.drop()" />
    </header>
    <PickedCable v-if="cable" :cable="cable" />
    <PickedPart v-else-if="part" :part="part" />
    <template v-if="!picking.moving">
      <v-btn v-if="!photographs" variant="text" @click="photographs = true">Photographs</v-btn>
      <PhotosOf
        v-else
        :key="id"
        :job-id="open.ids.job"
        :target="id"
        :words="name"
        :what="cable ? 'cable' : 'part'"
      />
    </template>
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
