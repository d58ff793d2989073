<script setup lang="ts">
import { computed, ref, watch } from "vue";

import { usePicking } from "./picking";
import { useScheme } from "@/documents/schemeStore";

const open = defineModel<boolean>({ required: true });
const schemes = useScheme();
const picking = usePicking();
const words = ref("");

const everything = computed(() => [
  ...(schemes.scheme?.design.components ?? []).map((part) => ({
    kind: "part" as const,
    id: part.id,
    name: part.name,
  })),
  ...Object.entries(schemes.scheme?.cable_names ?? {}).map(([id, name]) => ({
    kind: "cable" as const,
    id,
    name,
  })),
]);
const found = computed(() => {
  const wanted = words.value.toLowerCase().trim();
  return everything.value.filter((item) => item.name.toLowerCase().includes(wanted)).slice(0, 12);
});

function take(item: (typeof everything.value)[number] | undefined) {
  if (!item) return;
  open.value = false;
  picking.pick(item.kind, item.id);
}

watch(open, () => (words.value = ""));
</script>

<template>
  <v-dialog v-model="open" aria-label="Find">
    <v-card title="Find a part or a cable">
      <v-card-text>
        <v-text-field
          v-model="words"
          label="Part of its name"
          autofocus
          @keydown.enter="take(found[0])"
        />
        <v-list aria-label="Found">
          <v-list-item
            v-for="item in found"
            :key="item.kind + item.id"
            :title="item.name"
            :subtitle="item.kind"
            @click="take(item)"
          />
        </v-list>
        <p v-if="!found.length">Nothing aboard has that in its name.</p>
      </v-card-text>
    </v-card>
  </v-dialog>
</template>
