<script setup lang="ts">
import { computed } from "vue";

import { useScheme } from "@/documents/schemeStore";

import AddFound from "@/stages/frame/AddFound.vue";
import { GROUPS, KIND_SHEETS, groupOf, kindWord } from "@/parts/kinds";
import FigureFields from "@/parts/FigureFields.vue";

const schemes = useScheme();
const groups = computed(() =>
  GROUPS.filter((title) => title !== groupOf("bank"))
    .map((title) => ({
      title,
      parts: schemes.parts.filter((part) => groupOf(part.kind) === title),
    }))
    .filter((group) => group.parts.length),
);
/** What can be put in as found; banks have a place of their own. */
const kinds = KIND_SHEETS.filter((sheet) => sheet.found && sheet.kind !== "bank").map(
  (sheet) => sheet.kind,
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
            {{ kindWord(part.kind) }}
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
        <FigureFields :part="part" />
      </article>
    </template>
    <AddFound :kinds="kinds" />
  </section>
</template>
