<script setup lang="ts">
/** The scheme at the moment that is pointed at, and the day played through. */
import { mdiPause, mdiPlay, mdiSkipNext, mdiSkipPrevious } from "@mdi/js";
import { computed, onBeforeUnmount, ref, watch } from "vue";

import SchemeDrawing from "@/drawing/SchemeDrawing.vue";

import { clock } from "./clock";
import { useDay } from "./dayStore";

const day = useDay();
const FRAMES = 400;
const FRAME_MS = 60;

const sheet = computed(() => day.day?.sheet ?? null);
const plan = computed(() => sheet.value?.plan);
const words = computed(() => clock(plan.value?.clock_h ?? 0, day.at, plan.value?.hours ?? 24));
const positions = computed(() => day.moment?.state.positions ?? {});

const playing = ref(false);
let timer: ReturnType<typeof setInterval> | undefined;

function play() {
  playing.value = !playing.value;
  clearInterval(timer);
  if (!playing.value) return;
  const end = (plan.value?.hours ?? 24) * 3600;
  if (day.at >= end) day.point(0);
  timer = setInterval(() => {
    day.point(day.at + end / FRAMES);
    if (day.at >= end) play();
  }, FRAME_MS);
}
onBeforeUnmount(() => clearInterval(timer));
watch(sheet, () => {
  if (playing.value) play();
});

/** To the event before or after. */
function jump(by: 1 | -1) {
  const times = (sheet.value?.events ?? []).map((e) => e.at_s);
  const found =
    by > 0 ? times.find((t) => t > day.at + 1) : [...times].reverse().find((t) => t < day.at - 1);
  if (found !== undefined) day.point(found);
}
defineExpose({ play, jump });
</script>

<template>
  <section class="moment" aria-label="The moment">
    <div class="bar">
      <h2>{{ words }}</h2>
      <v-btn
        :icon="mdiSkipPrevious"
        size="small"
        aria-label="Event before"
        title="Event before ( , )"
        @click="jump(-1)"
      />
      <v-btn
        :icon="playing ? mdiPause : mdiPlay"
        :aria-label="playing ? 'Pause' : 'Play'"
        title="Play or pause ( space )"
        @click="play"
      />
      <v-btn
        :icon="mdiSkipNext"
        size="small"
        aria-label="Event after"
        title="Event after ( . )"
        @click="jump(1)"
      />
    </div>
    <div class="picture">
      <SchemeDrawing
        v-if="day.moment"
        :design="day.moment.design"
        :layout="day.moment.positive"
        :point="day.moment.point"
        :position-of="(id) => positions[id] ?? 'off'"
        :cable-names="day.moment.cable_names"
        :post-names="day.moment.post_names"
        :picked="null"
        :landing="null"
      />
    </div>
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 6px;
}
h2 {
  font-size: 1.2rem;
  flex: 1;
  font-variant-numeric: tabular-nums;
}
.picture {
  height: 400px;
  border: 1px solid rgb(var(--v-theme-ink), 0.25);
  border-radius: 12px;
}
</style>
