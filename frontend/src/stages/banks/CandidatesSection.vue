<script setup lang="ts">
/** Banks side by side, a column each: what it holds, gives, weighs, lasts, takes to charge. */
import { computed, ref } from "vue";
import { useDisplay } from "vuetify";

import type { Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";
import { freeId } from "@/shared/ids";
import TimeChart from "@/shared/charts/TimeChart.vue";
import NumberField from "@/shared/fields/NumberField.vue";
import PickField from "@/shared/fields/PickField.vue";
import { withEntry } from "@/shared/records";
import { ampHours, amps, hours, kilograms, percent, wattHours, years } from "@/shared/units";

type Candidate = Schemas["CandidateBank"];
const props = defineProps<{ plan: Schemas["BankPlan"] }>();

const surveys = useSurvey();
const schemes = useScheme();
const open = useOpenJob();
const notices = useNotices();
const unit = ref<string | null>(null);
const strings = ref<number | null>(null);
const shown = ref<string | null>(null);
const units = computed(() =>
  (open.choices?.batteries ?? []).map((b) => ({ value: b.id, title: b.label })),
);
const picked = computed(
  () => props.plan.candidates.find((c) => c.id === shown.value) ?? props.plan.candidates[0] ?? null,
);
/** On a phone one bank at a time stands beside its titles. */
const { mdAndUp } = useDisplay();
const columns = computed(() =>
  mdAndUp.value ? props.plan.candidates : picked.value ? [picked.value] : [],
);
const house = computed(() => schemes.parts.find((part) => part.id === props.plan.house));
const curves = computed(() =>
  (picked.value?.charge ?? []).map((time) => ({
    name: time.source,
    points: time.curve.points.map((p): [number, number] => [p.hours, p.current_a]),
  })),
);

interface Row {
  title: string;
  show: (candidate: Candidate) => string;
  strong?: boolean;
}
const rows = computed<Row[]>(() => [
  {
    title: "Made of",
    show: (c) => `${c.series} in series, ${c.parallel} in parallel`,
  },
  { title: "On the label", show: (c) => `${ampHours(c.capacity_ah)}, ${wattHours(c.energy_wh)}` },
  {
    title: "Really usable",
    show: (c) => `${ampHours(c.usable_ah)}, ${wattHours(c.usable_wh)}`,
    strong: true,
  },
  { title: "Days it lasts", show: (c) => (c.days == null ? "–" : `${c.days.toFixed(1)} days`) },
  { title: "Depth of a cycle", show: (c) => percent(c.depth) },
  {
    title: "Expected life",
    show: (c) => `${years(c.years)} (${c.ended_by === "cycles" ? "by cycles" : "by age"})`,
  },
  { title: "Weight", show: (c) => kilograms(c.weight_kg) },
  ...props.plan.sources.map((source, n) => ({
    title: `Charge from 50 %: ${source.name.toLowerCase()}`,
    show: (c: Candidate) => {
      const time = c.charge[n];
      if (!time) return "–";
      return time.hours == null ? "not in 72 h" : `${hours(time.hours)} at ${amps(time.current_a)}`;
    },
  })),
  {
    title: "Charging current it wants",
    show: (c) => `${amps(c.wanted_low_a)} to ${amps(c.wanted_high_a)}`,
  },
  { title: "Fault current at its posts", show: (c) => amps(c.fault_a) },
  {
    title: "Cost a usable kWh and year",
    show: (c) => (c.cost_per_kwh_year == null ? "no price" : c.cost_per_kwh_year.toFixed(0)),
  },
]);

async function choose(candidate: Candidate) {
  const { chemistry, unit_v, unit_ah, unit_cca_a, unit_weight_kg, series, parallel } =
    candidate.bank;
  const { house } = props.plan;
  if (house === null) return;
  const bank = { chemistry, unit_v, unit_ah, unit_cca_a, unit_weight_kg, series, parallel };
  if (await schemes.change({ type: "choose_bank", bank: house, ...bank })) {
    notices.said(schemes.scheme?.can_undo ?? "Chosen");
    shown.value = null;
  }
}

function add() {
  const own = surveys.survey?.sizing.candidates ?? [];
  const id = freeId(
    "own",
    own.map((c) => c.id),
  );
  const wish = { id, unit: unit.value, parallel: strings.value };
  return surveys.set("sizing", { candidates: [...own, wish] });
}

function remove(id: string) {
  const own = surveys.survey?.sizing.candidates ?? [];
  return surveys.set("sizing", { candidates: own.filter((c) => c.id !== id) });
}

const isOwn = (id: string) => surveys.survey?.sizing.candidates.some((c) => c.id === id);

const setPrice = (battery: string) => (price: number | null) =>
  surveys.set("sizing", { prices: withEntry(surveys.survey?.sizing.prices, battery, price) });
</script>

<template>
  <section aria-label="Candidates" class="wide">
    <p v-if="!plan.candidates.length" class="text-info">
      ? Nothing to compare yet: {{ plan.missing.join("; ") }}.
    </p>
    <template v-else>
      <label v-if="!mdAndUp" class="ask">
        Bank
        <select
          :value="picked?.id"
          aria-label="Bank that is shown"
          @change="shown = ($event.target as HTMLSelectElement).value"
        >
          <option v-for="candidate in plan.candidates" :key="candidate.id" :value="candidate.id">
            {{ candidate.enough ? "✓" : "◆" }} {{ candidate.label }}
          </option>
        </select>
      </label>
      <div class="scroll">
        <table class="plain">
          <thead>
            <tr>
              <th scope="col">Bank</th>
              <th
                v-for="candidate in columns"
                :key="candidate.id"
                scope="col"
                :class="{ here: candidate.id === picked?.id }"
              >
                <button
                  type="button"
                  class="label"
                  :aria-pressed="candidate.id === picked?.id"
                  @click="shown = candidate.id"
                >
                  {{ candidate.label }}
                </button>
                <span v-if="candidate.enough" class="text-success">✓ enough</span>
                <span v-else class="text-warning">◆ too small</span>
                <v-btn
                  v-if="candidate.fitted"
                  size="small"
                  variant="outlined"
                  disabled
                  class="choose"
                >
                  In this variant
                </v-btn>
                <v-btn
                  v-else
                  :size="mdAndUp ? 'small' : 'large'"
                  color="secondary"
                  variant="flat"
                  class="choose"
                  :disabled="schemes.busy"
                  @click="choose(candidate)"
                >
                  Choose this
                </v-btn>
                <v-btn
                  v-if="isOwn(candidate.id)"
                  size="x-small"
                  variant="text"
                  @click="remove(candidate.id)"
                >
                  Take out
                </v-btn>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.title">
              <th scope="row">{{ row.title }}</th>
              <td
                v-for="candidate in columns"
                :key="candidate.id"
                :class="{ here: candidate.id === picked?.id, strong: row.strong }"
              >
                {{ row.show(candidate) }}
              </td>
            </tr>
            <tr>
              <th scope="row">Price of one battery</th>
              <td
                v-for="candidate in columns"
                :key="candidate.id"
                :class="{ here: candidate.id === picked?.id }"
              >
                <NumberField
                  v-if="candidate.unit"
                  class="price"
                  label="Price"
                  :value="surveys.survey?.sizing.prices?.[candidate.unit] ?? null"
                  :save="setPrice(candidate.unit)"
                  optional
                />
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div v-if="picked" class="two">
        <div>
          <h2>{{ picked.label }}</h2>
          <ul class="advice">
            <li v-for="line in picked.advice" :key="line.words">
              <strong v-if="line.sense === 'for'" class="text-success">✓ for</strong>
              <strong v-else-if="line.sense === 'against'" class="text-warning">◆ against</strong>
              <strong v-else class="text-info">● needs</strong>
              {{ line.words }}
            </li>
          </ul>
          <details>
            <summary>Arithmetic</summary>
            <ul class="arithmetic">
              <li v-for="line in picked.working" :key="line">{{ line }}</li>
            </ul>
          </details>
          <p class="source">{{ open.choices?.batteries_source }}</p>
        </div>
        <div>
          <h2>Charging from 50 %, amps into the bank</h2>
          <TimeChart :lines="curves" x-unit=" h" y-unit="A" label="Amps into the bank over hours" />
          <p class="source">
            By the two-well model, loads taken off; the taper at the end is the bank's own.
          </p>
        </div>
      </div>
      <div class="own">
        <PickField
          label="Another bank to compare"
          none="Pick a battery"
          :value="unit"
          :picks="units"
          :save="(v) => !!(unit = v as string)"
        />
        <NumberField
          label="Strings (empty: as needed)"
          :value="strings"
          :save="(v) => ((strings = v), true)"
          optional
        />
        <v-btn :disabled="!unit" @click="add">Add it</v-btn>
      </div>
      <p class="care">
        Choosing changes {{ house?.name ?? "the house bank" }} in this variant; bench and findings
        follow, and undo takes it back. Batteries are heavy and never quite dead: two people, boots
        on the posts, the maker's manual beside you.
      </p>
    </template>
  </section>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table.plain th[scope="row"] {
  position: sticky;
  left: 0;
  z-index: 1;
  min-width: 148px;
  font-weight: 600;
  background: rgb(var(--v-theme-background));
}
table.plain thead th:first-child {
  position: sticky;
  left: 0;
  background: rgb(var(--v-theme-background));
}
thead th {
  min-width: 148px;
  text-align: left !important;
}
td {
  text-align: left !important;
}
.label {
  display: block;
  font-weight: 800;
  font-size: 1rem;
  text-align: left;
  color: inherit;
  min-height: 44px;
  padding: 0;
  text-decoration: underline;
  text-underline-offset: 3px;
}
.choose {
  display: block;
  margin-top: 4px;
}
.here {
  background: rgb(var(--v-theme-surface-variant));
}
.strong {
  font-weight: 800;
  font-size: 1.05rem;
}
.price {
  width: 110px;
}
.price :deep(label) {
  position: absolute;
  clip-path: inset(50%);
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(320px, 1fr));
  gap: 20px;
  margin-top: 12px;
}
h2 {
  font-size: 1.15rem;
}
.advice {
  list-style: none;
  padding: 0;
}
.advice li {
  padding: 3px 0;
}
.own {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: end;
  margin: 12px 0;
}
.own > .field {
  width: 260px;
}
</style>
