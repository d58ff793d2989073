<script setup lang="ts">
/** Each switch move forgotten, late or wrong, each part failing: what follows, the gravest first. */
import { computed, ref, shallowRef, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { percent, volts } from "@/shared/units";

import { useDay, type Study } from "./dayStore";
import { RANKS } from "./ranks";
import StudyProgress from "./StudyProgress.vue";

const emit = defineEmits<{ day: [] }>();
const day = useDay();
const notices = useNotices();
const study = shallowRef<Study | null>(null);
const sweep = shallowRef<Schemas["SweepOut"] | null>(null);
const all = ref(false);
const KINDS: Record<string, string> = {
  omitted: "forgotten",
  delayed: "late",
  wrong: "wrong way",
  fault: "part fails",
};

const shown = computed(() => {
  const cases = sweep.value?.cases ?? [];
  return all.value ? cases : cases.filter((c) => c.consequence?.rank !== "none");
});
const harmless = computed(
  () => sweep.value?.cases.filter((c) => c.consequence?.rank === "none").length ?? 0,
);

async function read(id: string) {
  const params = { path: { study_id: id } };
  sweep.value = await unwrap(api.GET("/api/studies/{study_id}/sweep", { params }));
}

async function follow(started: Study) {
  study.value = started;
  let shownAt = -1;
  try {
    study.value = await day.untilSettled(started, (now) => {
      study.value = now;
      // The list grows while it runs.
      if (now.done >= shownAt + 6) {
        shownAt = now.done;
        void read(now.id);
      }
    });
    await read(started.id);
  } catch (error) {
    notices.failed(error);
  }
}

async function run() {
  if (!day.asked) return;
  sweep.value = null;
  const params = { path: { variant_id: day.variant, plan_id: day.asked.plan } };
  try {
    await follow(
      await unwrap(api.POST("/api/variants/{variant_id}/plans/{plan_id}/sweep", { params })),
    );
  } catch (error) {
    notices.failed(error);
  }
}

watch(
  () => [day.asked?.plan, day.studies] as const,
  ([plan], before) => {
    if (before && plan === before[0] && study.value) return;
    study.value = sweep.value = null;
    const kept = day.studies.find((s) => s.kind === "sweep" && s.plan === plan);
    if (kept) void follow(kept);
  },
  { immediate: true },
);

async function see(key: string) {
  emit("day");
  await day.askCase(key);
}
</script>

<template>
  <section aria-label="Slip test and fault sweep">
    <div class="bar">
      <v-btn
        color="secondary"
        variant="flat"
        :disabled="!day.asked || study?.status === 'running' || study?.status === 'waiting'"
        @click="run"
      >
        {{ sweep ? "Run again" : "Run the slip test" }}
      </v-btn>
      <p v-if="study?.stale" class="text-warning">◆ From an older scheme or plan</p>
      <p v-if="sweep">
        <strong>{{ sweep.cases.filter((c) => c.consequence).length }}</strong> of
        {{ sweep.cases.length }} things that can go wrong, one at a time
      </p>
    </div>
    <StudyProgress v-if="study" :study="study" what="Slip test" />
    <p v-if="!study" class="about">
      Every switch move of this plan is left out, made late and made the wrong way; every part fails
      once. Each is a day of its own on this boat.
    </p>
    <ol v-if="sweep" class="cases">
      <li
        v-for="one in shown"
        :key="one.key"
        :class="one.consequence ? RANKS[one.consequence.rank].color : 'waiting'"
      >
        <button type="button" :disabled="!one.consequence" @click="see(one.key)">
          <span class="rank">
            <template v-if="one.consequence">
              {{ RANKS[one.consequence.rank].mark }} {{ RANKS[one.consequence.rank].word }}
            </template>
            <template v-else>{{ one.problem ? "? Cannot be told" : "… waiting" }}</template>
            <small>{{ KINDS[one.kind] }}</small>
          </span>
          <span class="story">
            <strong>{{ one.words }}</strong>
            <span>{{ one.problem ?? one.consequence?.story }}</span>
          </span>
          <span v-if="one.outcome" class="numbers">
            <span v-if="one.outcome.weakest_v != null">
              weakest start {{ volts(one.outcome.weakest_v) }}
            </span>
            <span v-if="one.outcome.lowest_engine_soc != null">
              engine bank lowest {{ percent(one.outcome.lowest_engine_soc) }}
            </span>
          </span>
        </button>
      </li>
    </ol>
    <v-btn v-if="harmless" size="small" variant="text" @click="all = !all">
      {{ all ? "Hide" : "Show" }} {{ harmless }} from which nothing follows
    </v-btn>
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  margin: 6px 0;
}
.about {
  max-width: 640px;
}
.cases {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
  max-width: 1080px;
}
.cases li {
  border-left: 6px solid rgb(var(--v-theme-ink), 0.3);
  border-radius: 4px 12px 12px 4px;
  background: rgb(var(--v-theme-surface));
}
li.error {
  border-color: rgb(var(--v-theme-error));
}
li.warning {
  border-color: rgb(var(--v-theme-warning));
}
li.success {
  border-color: rgb(var(--v-theme-success));
}
.cases button {
  display: grid;
  grid-template-columns: 130px 1fr auto;
  gap: 4px 16px;
  width: 100%;
  min-height: 52px;
  padding: 6px 14px;
  text-align: left;
  color: inherit;
}
.cases button:hover:enabled {
  background: rgb(var(--v-theme-ink), 0.05);
}
.rank {
  font-weight: 800;
}
.error .rank {
  color: rgb(var(--v-theme-error));
}
.warning .rank {
  color: rgb(var(--v-theme-warning));
}
small {
  display: block;
  font-weight: 400;
  color: rgb(var(--v-theme-on-surface));
}
.story span,
.numbers span {
  display: block;
}
.numbers {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
@media (max-width: 959px) {
  .cases button {
    grid-template-columns: 1fr;
  }
  .numbers {
    text-align: left;
  }
}
</style>
