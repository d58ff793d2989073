<script setup lang="ts">
/** Reels and offcuts that the workshop has to cut from. */
import type { Schemas } from "@/api/client";
import { CHOICES } from "@/parts/kinds";
import { readNumber, writeNumber } from "@/shared/fields/numbers";
import { freeId } from "@/shared/ids";

type Reel = Schemas["Reel"];
const props = defineProps<{ sizes: string[] }>();
const emit = defineEmits<{ change: []; wrong: [lines: string[]] }>();
const reels = defineModel<Reel[]>({ required: true });

function take(next: Reel[]) {
  reels.value = next;
  emit("change");
}

function add() {
  const taken = reels.value.map((reel) => reel.id);
  const gauge = props.sizes[0] ?? "";
  const plain = { gauge, colour: "red", insulation_c: 105, length_m: 30 } as const;
  take([...reels.value, { id: freeId("reel", taken), ...plain }]);
}

function set(id: string, fields: Partial<Reel>) {
  take(reels.value.map((reel) => (reel.id === id ? { ...reel, ...fields } : reel)));
}

function setLength(id: string, event: Event) {
  const read = readNumber((event.target as HTMLInputElement).value);
  if ("wrong" in read || read.value === null) {
    emit("wrong", [`${id}: ${"wrong" in read ? read.wrong : "a length in metres"}`]);
    return;
  }
  set(id, { length_m: read.value });
}

const chosen = (event: Event) => (event.target as HTMLSelectElement).value;
</script>

<template>
  <section>
    <h2>Reels and offcuts</h2>
    <p>Build cuts from these first, so that least is bought.</p>
    <ul>
      <li v-for="reel in reels" :key="reel.id">
        <select
          :value="reel.gauge"
          :aria-label="`Size of ${reel.id}`"
          @change="set(reel.id, { gauge: chosen($event) })"
        >
          <option v-for="size in sizes" :key="size">{{ size }}</option>
        </select>
        <select
          :value="reel.colour"
          :aria-label="`Colour of ${reel.id}`"
          @change="set(reel.id, { colour: chosen($event) as Reel['colour'] })"
        >
          <option v-for="c in CHOICES.colour" :key="c.value" :value="c.value">{{ c.title }}</option>
        </select>
        <input
          :value="writeNumber(reel.length_m)"
          inputmode="decimal"
          :aria-label="`Length of ${reel.id} in metres`"
          @change="setLength(reel.id, $event)"
        />
        m
        <v-btn
          size="small"
          variant="text"
          @click="take(reels.filter((other) => other.id !== reel.id))"
        >
          Take it out
        </v-btn>
      </li>
    </ul>
    <v-btn size="small" @click="add">Add a reel or an offcut</v-btn>
  </section>
</template>

<style scoped>
section {
  flex: 1 1 460px;
}
h2 {
  font-size: 1.12rem;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 3px 0;
}
select,
input {
  width: 110px;
  height: 36px;
  padding: 0 6px;
  font: inherit;
  color: rgb(var(--v-theme-on-surface));
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-ink), 0.3);
  border-radius: 6px;
}
</style>
