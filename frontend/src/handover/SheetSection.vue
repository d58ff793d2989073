<script setup lang="ts">
/** A part of the owner's sheet: statements, each with its switches and where it was computed. */
import type { Schemas } from "@/api/client";
import { STAGES } from "@/stages/stages";

import SwitchFace from "./SwitchFace.vue";

/** Without a boat there are no links to where a number was computed: the owner has no stages. */
defineProps<{ section: Schemas["SaidSection"]; boat?: { jobId: string; variantId: string } }>();

const stage = (link: string) => STAGES.find((one) => one.route === link);
</script>

<template>
  <section v-if="section.lines.length" :aria-label="section.title">
    <h2>{{ section.title }}</h2>
    <div class="lines">
      <article
        v-for="(line, n) in section.lines"
        :key="n"
        class="card"
        :class="{ never: section.id === 'never' }"
      >
        <h3>{{ section.id === "never" ? "▲ " : "" }}{{ line.head }}</h3>
        <div v-if="line.switches.length" class="faces">
          <SwitchFace v-for="one in line.switches" :key="one.switch" :shown="one" />
        </div>
        <p>{{ line.text }}</p>
        <router-link
          v-if="boat && stage(line.link)"
          :to="{ name: line.link, params: boat }"
          class="from"
        >
          {{ stage(line.link)?.name }}
        </router-link>
      </article>
    </div>
  </section>
</template>

<style scoped>
.lines {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: 12px;
  margin-bottom: 16px;
}
h3 {
  font-size: 1.15rem;
}
p {
  font-size: 1.05rem;
}
.never {
  border-left: 6px solid rgb(var(--v-theme-error));
}
.faces {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 8px 0;
}
.from {
  display: inline-block;
  min-height: 32px;
  padding-top: 6px;
  color: inherit;
  font-size: 0.9rem;
}
@media (max-width: 959px) {
  .lines {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
