<script setup lang="ts">
/** Variants, schools of handling and plans against each other, each cell a day of its own. */
import { computed, ref, shallowRef, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import { hours, percent, volts } from "@/shared/units";

import { useDay, type Study } from "./dayStore";
import { RANKS } from "./ranks";
import StudyProgress from "./StudyProgress.vue";

const emit = defineEmits<{ cell: [variant: string, plan: string, school: string] }>();
const day = useDay();
const open = useOpenJob();
const notices = useNotices();
const variants = ref<string[]>([]);
const schools = ref<string[]>([]);
const plans = ref<string[]>([]);
const study = shallowRef<Study | null>(null);
const found = shallowRef<Schemas["ComparisonOut"] | null>(null);

const count = computed(() => variants.value.length * schools.value.length * plans.value.length);
const planName = (id: string) =>
  day.plans?.plans.find((p) => p.id === id)?.document.name ?? "a plan that is gone";
const school = (id: string) => day.plans?.schools.find((s) => s.id === id);
const variantName = (id: string) => open.job?.variants.find((v) => v.id === id)?.name ?? "";
const columns = computed(() => [...new Set(found.value?.cells.map((c) => c.school))]);
const rows = computed(() => {
  const cells = found.value?.cells ?? [];
  const by = new Map<string, { plan: string; variant: string; cells: typeof cells }>();
  for (const cell of cells) {
    const { plan, variant } = cell;
    const key = `${plan} ${variant}`;
    if (!by.has(key)) by.set(key, { plan, variant, cells: [] });
    by.get(key)?.cells.push(cell);
  }
  return [...by].map(([key, row]) => ({ key, ...row }));
});

function toggle(list: string[], id: string) {
  return list.includes(id) ? list.filter((one) => one !== id) : [...list, id];
}

async function read(id: string) {
  const params = { path: { study_id: id } };
  found.value = await unwrap(api.GET("/api/studies/{study_id}/comparison", { params }));
}

async function follow(started: Study) {
  study.value = started;
  try {
    study.value = await day.untilSettled(started, (now) => {
      study.value = now;
      void read(now.id);
    });
    await read(started.id);
  } catch (error) {
    notices.failed(error);
  }
}

async function run() {
  found.value = null;
  const params = { path: { job_id: open.ids.job } };
  const body = { variants: variants.value, schools: schools.value, plans: plans.value };
  try {
    await follow(await unwrap(api.POST("/api/jobs/{job_id}/comparison", { params, body })));
  } catch (error) {
    notices.failed(error);
  }
}

watch(
  () => [day.plans, day.studies, day.asked, open.job] as const,
  () => {
    if (!variants.value.length) variants.value = open.job?.variants.map((v) => v.id) ?? [];
    if (!schools.value.length) schools.value = ["a", "b", "c", "d"];
    if (!plans.value.length && day.asked) plans.value = [day.asked.plan];
    const kept = day.studies.find((s) => s.kind === "comparison");
    if (!study.value && kept) void follow(kept);
  },
  { immediate: true },
);

const mark = (outcome: Schemas["Outcome"]) => RANKS[outcome.rank];
/** Which load goes without, and for how long; nothing where all are served. */
function without({ unmet }: Schemas["Outcome"]) {
  const worst = unmet[0];
  const more = unmet.length > 1 ? `, ${unmet.length - 1} more too` : "";
  return worst ? `${worst.name} goes without for ${hours(worst.hours)}${more}` : "";
}
</script>

<template>
  <section aria-label="Comparison">
    <div class="choose">
      <fieldset>
        <legend>Variants</legend>
        <label v-for="one in open.job?.variants" :key="one.id">
          <input
            type="checkbox"
            :checked="variants.includes(one.id)"
            @change="variants = toggle(variants, one.id)"
          />
          {{ one.name }}
        </label>
      </fieldset>
      <fieldset>
        <legend>Schools of handling</legend>
        <label v-for="one in day.plans?.schools" :key="one.id" :title="one.habit">
          <input
            type="checkbox"
            :checked="schools.includes(one.id)"
            @change="schools = toggle(schools, one.id)"
          />
          <span v-if="one.id.length === 1" class="letter">{{ one.id.toUpperCase() }}</span>
          {{ one.name }}
        </label>
      </fieldset>
      <fieldset>
        <legend>Plans</legend>
        <label v-for="one in day.plans?.plans" :key="one.id">
          <input
            type="checkbox"
            :checked="plans.includes(one.id)"
            @change="plans = toggle(plans, one.id)"
          />
          {{ one.document.name }}
        </label>
      </fieldset>
      <div class="run">
        <v-btn
          color="secondary"
          variant="flat"
          :disabled="!count || study?.status === 'running' || study?.status === 'waiting'"
          @click="run"
        >
          Run {{ count }} days
        </v-btn>
        <p v-if="study?.stale" class="text-warning">◆ From older schemes or plans</p>
      </div>
    </div>
    <StudyProgress v-if="study" :study="study" what="Comparison" />
    <div v-if="found" class="scroll">
      <table>
        <thead>
          <tr>
            <th>Variant</th>
            <th v-for="id in columns" :key="id">
              <span v-if="id.length === 1" class="letter">{{ id.toUpperCase() }}</span>
              {{ school(id)?.name ?? "Own moves" }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.key">
            <th>
              {{ variantName(row.variant) }}<small>{{ planName(row.plan) }}</small>
            </th>
            <td v-for="cell in row.cells" :key="cell.school">
              <p v-if="cell.why_not" class="none">Not on this boat: {{ cell.why_not }}</p>
              <p v-else-if="!cell.outcome" class="none">… {{ cell.status }}</p>
              <button
                v-else
                type="button"
                @click="emit('cell', cell.variant, cell.plan, cell.school)"
              >
                <strong :class="`text-${mark(cell.outcome).color}`">
                  {{ mark(cell.outcome).mark }}
                  {{ cell.outcome.stranded ? "Stranded" : "Starts" }}
                  {{ cell.outcome.started }}/{{ cell.outcome.starts }}
                </strong>
                <dl>
                  <dt>Weakest start</dt>
                  <dd>{{ volts(cell.outcome.weakest_v) }}</dd>
                  <dt>Engine bank lowest</dt>
                  <dd>
                    {{
                      cell.outcome.lowest_engine_soc == null
                        ? "–"
                        : percent(cell.outcome.lowest_engine_soc)
                    }}
                  </dd>
                  <dt>House at the end</dt>
                  <dd>
                    {{
                      cell.outcome.house_end_soc == null ? "–" : percent(cell.outcome.house_end_soc)
                    }}
                  </dd>
                  <dt>Relay closes</dt>
                  <dd>{{ cell.outcome.relay_closures }} times</dd>
                  <dt>Alternator too hot</dt>
                  <dd>{{ hours(cell.outcome.hot_h) }}</dd>
                  <dt>Switch moves</dt>
                  <dd>{{ cell.outcome.moves_a_day.toFixed(1) }} a day</dd>
                </dl>
                <small v-if="cell.outcome.hazards.length" class="text-error">
                  ▲ {{ cell.outcome.hazards[0]?.words }}
                </small>
                <small v-else-if="without(cell.outcome)" class="text-warning">
                  ■ {{ without(cell.outcome) }}
                </small>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 22px;
  align-items: flex-start;
}
fieldset {
  border: 0;
  padding: 0;
}
legend {
  font-weight: 700;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 34px;
}
input {
  width: 20px;
  height: 20px;
  accent-color: rgb(var(--v-theme-secondary));
}
.letter {
  display: inline-block;
  min-width: 1.5em;
  padding: 0 4px;
  border-radius: 6px;
  text-align: center;
  font-weight: 800;
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-on-primary));
}
.run {
  margin-left: auto;
  text-align: right;
}
.scroll {
  overflow-x: auto;
  margin-top: 8px;
}
table {
  border-collapse: separate;
  border-spacing: 8px;
  margin-left: -8px;
}
th {
  text-align: left;
  vertical-align: bottom;
  font-size: 0.95rem;
}
tbody th {
  vertical-align: top;
  padding-top: 8px;
  min-width: 108px;
}
small {
  display: block;
  font-weight: 400;
}
td {
  vertical-align: top;
  min-width: 196px;
  border-radius: 12px;
  border: 1px solid rgb(var(--v-theme-ink), 0.25);
  background: rgb(var(--v-theme-surface));
}
td button {
  width: 100%;
  padding: 8px 12px;
  text-align: left;
  color: inherit;
  border-radius: 12px;
}
td button:hover {
  background: rgb(var(--v-theme-ink), 0.06);
}
td strong {
  font-size: 1.12rem;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 10px;
  margin: 2px 0;
}
dd {
  margin: 0;
  font-weight: 700;
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.none {
  padding: 8px 12px;
  opacity: 0.85;
  max-width: 200px;
}
</style>
