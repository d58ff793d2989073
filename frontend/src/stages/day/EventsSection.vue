<script setup lang="ts">
/** What happened, in words; each line leads to its moment. */
import { computed, nextTick, ref, watch } from "vue";

import { percent } from "@/shared/units";

import { clock } from "./clock";
import { useDay, type Sheet } from "./dayStore";

const props = defineProps<{ sheet: Sheet }>();
const day = useDay();
const list = ref<HTMLElement | null>(null);
const MOST = 300;
const events = computed(() => props.sheet.events.slice(0, MOST));
const last = computed(() => {
  let found = -1;
  events.value.forEach((event, n) => {
    if (event.at_s <= day.at + 0.5) found = n;
  });
  return found;
});
const at = (seconds: number) =>
  clock(props.sheet.plan.clock_h ?? 0, seconds, props.sheet.plan.hours ?? 24);
const MARKS: Record<string, string> = { hazard: "▲", fuse: "▲", load: "■", start: "●" };
const names = computed(
  () => new Map(day.moment?.design.components.map((p) => [p.id, p.name] as const)),
);

watch(last, async (n) => {
  await nextTick();
  const row = list.value?.children[n] as HTMLElement | undefined;
  if (row && list.value) list.value.scrollTop = row.offsetTop - list.value.offsetTop - 60;
});
</script>

<template>
  <section aria-label="Events">
    <h2>What happened</h2>
    <ol ref="list">
      <li v-for="(event, n) in events" :key="n" :class="{ here: n === last }">
        <button type="button" @click="day.point(event.at_s)">
          <span class="at">{{ at(event.at_s) }}</span>
          <span :class="{ grave: event.kind === 'hazard' || event.to === 'failed' }">
            {{ MARKS[event.kind] ?? "" }} {{ event.words }}
            <small v-if="event.kind === 'stage' || event.kind === 'start'">
              {{
                Object.entries(event.soc ?? {})
                  .map(([id, soc]) => `${names.get(id) ?? id} ${percent(soc)}`)
                  .join(", ")
              }}
            </small>
          </span>
        </button>
      </li>
    </ol>
    <p v-if="sheet.events.length > MOST">
      and {{ sheet.events.length - MOST }} more: the day as CSV has all of it
    </p>
  </section>
</template>

<style scoped>
h2 {
  font-size: 1.1rem;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0;
  max-height: 460px;
  overflow-y: auto;
}
@media (max-width: 1179px) {
  ol {
    max-height: 260px;
  }
}
button {
  display: flex;
  gap: 12px;
  width: 100%;
  min-height: 32px;
  padding: 4px 8px;
  text-align: left;
  color: inherit;
  border-left: 4px solid transparent;
}
@media (max-width: 959px) {
  button {
    min-height: 48px;
  }
}
button:hover {
  background: rgb(var(--v-theme-ink), 0.07);
}
.here button {
  border-left-color: rgb(var(--v-theme-secondary));
  background: rgb(var(--v-theme-surface));
}
.at {
  flex: none;
  min-width: 6.2em;
  font-variant-numeric: tabular-nums;
  font-weight: 600;
}
.grave {
  color: rgb(var(--v-theme-error));
  font-weight: 700;
}
small {
  display: block;
  opacity: 0.9;
}
</style>
