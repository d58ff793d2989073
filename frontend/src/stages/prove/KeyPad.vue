<script setup lang="ts">
/** A keypad for one thumb: a number with sign, the unit fixed beside it. */
import { computed } from "vue";

const props = defineProps<{ unit: string; busy: boolean }>();
const emit = defineEmits<{ enter: [value: number] }>();
const text = defineModel<string>({ required: true });

const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", "±", "0", "."];
const MOST = 8;
const value = computed(() => (/\d/.test(text.value) ? Number(text.value) : null));

function press(key: string) {
  if (key === "±") text.value = text.value.startsWith("-") ? text.value.slice(1) : `-${text.value}`;
  else if (key === "." && text.value.includes(".")) return;
  else if (text.value.length < MOST) text.value += key;
}

function enter() {
  if (value.value !== null && !props.busy) emit("enter", value.value);
}

function typed(event: KeyboardEvent) {
  if (event.key === "Enter") enter();
  else if (event.key === "Backspace") text.value = text.value.slice(0, -1);
  else if (event.key === "-") press("±");
  else if (/^[\d.]$/.test(event.key)) press(event.key);
  else if (event.key === ",") press(".");
  else return;
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <div class="pad" role="group" aria-label="Reading" tabindex="0" @keydown="typed">
    <output class="shown" aria-label="Reading typed" aria-live="polite">
      <span>{{ text || "–" }}</span> {{ unit }}
    </output>
    <button v-for="key in KEYS" :key="key" type="button" :aria-label="key" @click="press(key)">
      {{ key }}
    </button>
    <button type="button" aria-label="Take back the last digit" @click="text = text.slice(0, -1)">
      ⌫
    </button>
    <button type="button" class="enter" :disabled="value === null || busy" @click="enter">
      Enter {{ unit }}
    </button>
  </div>
</template>

<style scoped>
.pad {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
  max-width: 420px;
}
.shown {
  grid-column: 1 / -1;
  text-align: right;
  font-size: 2rem;
  font-weight: 800;
  line-height: 1.2;
  padding: 0 12px;
  border: 2px solid rgb(var(--v-theme-ink), 0.5);
  border-radius: 10px;
  font-variant-numeric: tabular-nums;
}
button {
  min-height: 48px;
  font-size: 1.4rem;
  font-weight: 700;
  border-radius: 10px;
  border: 1px solid rgb(var(--v-theme-ink), 0.35);
  background: rgb(var(--v-theme-surface));
}
.enter {
  grid-column: 2 / -1;
  background: rgb(var(--v-theme-secondary));
  color: rgb(var(--v-theme-on-secondary));
}
.enter:disabled {
  background: rgb(var(--v-theme-ink), 0.2);
  color: rgb(var(--v-theme-ink), 0.7);
}
</style>
