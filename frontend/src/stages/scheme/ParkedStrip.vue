<script setup lang="ts">
/** Cables with an end that hangs: seen, carrying nothing, ready to be landed. */
import { computed } from "vue";

import { useScheme } from "@/documents/schemeStore";

import { usePicking } from "./picking";
import { useWiring } from "./wiring";

const schemes = useScheme();
const picking = usePicking();
const wiring = useWiring();
const parked = computed(() => schemes.scheme?.design.parked ?? []);
const moving = computed(() => (picking.moving?.parked ? picking.moving : null));

function post(ref: string | null): string {
  return ref ? (schemes.scheme?.post_names[ref] ?? ref) : "hangs";
}

function hanging(cable: (typeof parked.value)[number]): ("start" | "end")[] {
  return (["start", "end"] as const).filter((end) => !cable[end]);
}
</script>

<template>
  <section v-if="parked.length" class="parked" aria-label="Parked cables">
    <h3>Parked</h3>
    <div v-for="cable in parked" :key="cable.id" class="cable">
      <span>{{ cable.gauge }}: {{ post(cable.start) }} to {{ post(cable.end) }}</span>
      <v-btn
        v-for="end in hanging(cable)"
        :key="end"
        size="small"
        :aria-pressed="moving?.cable === cable.id && moving.end === end"
        @click="picking.startMove(cable.id, end, true)"
      >
        Land {{ hanging(cable).length > 1 ? `the ${end}` : "it" }}
      </v-btn>
      <v-btn
        size="small"
        variant="text"
        @click="wiring.change({ type: 'remove_cable', cable: cable.id })"
      >
        Take out
      </v-btn>
    </div>
    <p v-if="moving" class="ask">
      <strong>Pick the post</strong> on the drawing.
      <v-btn size="small" variant="text" @click="picking.drop()">Leave it parked</v-btn>
    </p>
  </section>
</template>

<style scoped>
.parked {
  display: flex;
  flex: none;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  padding: 4px 12px;
  border-top: 1px dashed rgb(var(--v-theme-ink), 0.5);
  font-size: 0.9rem;
}
h3 {
  font-size: 0.9rem;
}
.cable {
  display: flex;
  align-items: center;
  gap: 6px;
}
.ask {
  color: rgb(var(--v-theme-warning));
}
</style>
