<script setup lang="ts">
import { computed } from "vue";

import { useScheme } from "@/documents/schemeStore";

import AddFound from "@/stages/frame/AddFound.vue";
import { GEAR_FIGURES, KIND_WORDS } from "@/parts/figures";
import FigureFields from "@/parts/FigureFields.vue";

const schemes = useScheme();
const GROUPS = [
  { title: "Sources", kinds: ["alternator", "charger", "solar", "generator", "inverter"] },
  {
    title: "Switches and relays",
    kinds: [
      "selector",
      "dual_switch",
      "switch",
      "relay",
      "isolator",
      "dcdc",
      "one_way",
      "protection",
    ],
  },
  {
    title: "Fuses, breakers, bars, shunts",
    kinds: ["fuse", "breaker", "fuse_block", "bus_bar", "shunt"],
  },
  { title: "Starter and feeds", kinds: ["starter", "loads"] },
];
const groups = computed(() =>
  GROUPS.map((group) => ({
    title: group.title,
    parts: schemes.parts.filter((part) => group.kinds.includes(part.kind)),
  })).filter((group) => group.parts.length),
);

function takeOut(id: string) {
  return schemes.change({ type: "remove_part", part: id });
}
</script>

<template>
  <section aria-label="Sources and switches" class="block">
    <template v-for="group in groups" :key="group.title">
      <h2>{{ group.title }}</h2>
      <article v-for="part in group.parts" :key="part.id" class="card" :aria-label="part.name">
        <div class="card-head">
          <h3>{{ part.name }}</h3>
          <span>
            {{ KIND_WORDS[part.kind] }}
            <v-btn
              size="small"
              variant="text"
              :aria-label="`Not aboard: take out ${part.name}`"
              @click="takeOut(part.id)"
            >
              Not aboard: take out
            </v-btn>
          </span>
        </div>
        <FigureFields :part="part" :figures="GEAR_FIGURES[part.kind] ?? []" />
      </article>
    </template>
    <AddFound
      :kinds="[
        'charger',
        'solar',
        'generator',
        'alternator',
        'switch',
        'relay',
        'isolator',
        'dcdc',
        'one_way',
        'inverter',
        'feed',
      ]"
    />
  </section>
</template>
