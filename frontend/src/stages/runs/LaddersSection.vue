<script setup lang="ts">
/** Devices in series below each bank as rungs, and what opens on a short at each place. */
import { computed, ref } from "vue";

import type { Schemas } from "@/api/client";
import { amps } from "@/shared/units";

type Rung = Schemas["Rung"];
const props = defineProps<{ ladders: Schemas["Ladder"][]; openings: Schemas["Opening"][] }>();

const place = ref("");
const opening = computed(() => props.openings.find((o) => o.cable === place.value));
const HOW: Record<string, { mark: string; words: string; color: string }> = {
  top: { mark: "▔", words: "next to the bank", color: "" },
  sure: { mark: "✓", words: "opens before the one above", color: "success" },
  likely: { mark: "◆", words: "smaller, but the one above may open too", color: "warning" },
  not: { mark: "■", words: "the one above may open first", color: "error" },
  facing: { mark: "⇄", words: "faces the other bank's device", color: "" },
};
const how = (rung: Rung) => HOW[rung.selective] ?? { mark: "", words: "", color: "" };
const weak = (rung: Rung) => rung.breaks === false;
const opens = (rung: Rung) => opening.value?.opens.includes(rung.device) ?? false;
</script>

<template>
  <div class="ladders">
    <div class="short">
      <label for="short-place">A short on</label>
      <select id="short-place" v-model="place">
        <option value="">choose a cable</option>
        <option v-for="one in openings" :key="one.cable" :value="one.cable">{{ one.name }}</option>
      </select>
      <p v-if="opening" role="status">
        <strong>⚡ {{ opening.words }}</strong>
      </p>
      <p v-else>Choose where the short is: the device that opens is marked on the ladders.</p>
    </div>
    <section v-for="ladder in ladders" :key="ladder.bank" class="ladder">
      <h2>{{ ladder.name }}</h2>
      <p v-if="!ladder.rungs.length" class="text-error">■ no device below it</p>
      <ol>
        <li
          v-for="rung in ladder.rungs"
          :key="rung.device"
          class="rung"
          :class="{ opens: opens(rung) }"
          :style="{ marginLeft: `${rung.depth * 26}px` }"
        >
          <span class="rating">{{ rung.rating_a }} A</span>
          <span class="what">
            <strong>{{ opens(rung) ? "⚡ " : "" }}{{ rung.name }}</strong>
            <small
              >{{ rung.label
              }}<template v-if="rung.feeds.length">
                · feeds {{ rung.feeds.join(", ") }}</template
              ></small
            >
            <small :class="how(rung).color ? `text-${how(rung).color}` : ''">
              {{ how(rung).mark }} {{ how(rung).words }}
            </small>
            <small :class="{ 'text-warning': weak(rung) }">
              {{ weak(rung) ? "◆ " : "" }}fault {{ amps(rung.fault_a) }}, breaks
              {{ rung.interrupt_a == null ? "? to find out" : amps(rung.interrupt_a) }}
            </small>
          </span>
        </li>
      </ol>
      <details v-if="ladder.unprotected.length">
        <summary>{{ ladder.unprotected.length }} cables before any device</summary>
        <p v-for="name in ladder.unprotected" :key="name">{{ name }}</p>
      </details>
    </section>
  </div>
</template>

<style scoped>
.ladders {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 22px;
  align-items: flex-start;
}
.short {
  flex: 1 0 100%;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
select {
  min-height: 42px;
  max-width: 100%;
  padding: 0 8px;
  font: inherit;
  color: rgb(var(--v-theme-on-surface));
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-ink), 0.35);
  border-radius: 6px;
}
.short p {
  flex: 1 0 100%;
}
.ladder {
  flex: 1 1 320px;
  max-width: 520px;
}
h2 {
  font-size: 1.08rem;
  padding: 4px 10px;
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-on-primary));
  border-radius: 6px 6px 0 0;
}
ol {
  list-style: none;
  padding: 0 0 0 10px;
  border-left: 6px solid rgb(var(--v-theme-wire));
}
.rung {
  position: relative;
  display: flex;
  gap: 10px;
  margin-top: 8px;
  padding: 6px 10px;
  border: 1.5px solid rgb(var(--v-theme-ink), 0.35);
  border-radius: 8px;
  background: rgb(var(--v-theme-surface));
}
.rung::before {
  content: "";
  position: absolute;
  left: -12px;
  top: 22px;
  width: 12px;
  border-top: 3px solid rgb(var(--v-theme-wire));
}
.opens {
  border: 3px solid rgb(var(--v-theme-error));
}
.rating {
  font-size: 1.2rem;
  font-weight: 800;
  min-width: 64px;
  white-space: nowrap;
}
small {
  display: block;
  line-height: 1.2;
}
summary {
  min-height: 40px;
  display: flex;
  align-items: center;
  cursor: pointer;
}
</style>
