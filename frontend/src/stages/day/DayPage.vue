<script setup lang="ts">
/** Stage 6: a plan is run on the boat; people slip, parts fail. */
import { computed, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";

import type { Key } from "@/app/keys";
import { api, unwrap } from "@/api/client";
import { day as onDay } from "@/shared/formats";
import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";
import { keepAs } from "@/drawing/exportSvg";
import PickField from "@/shared/fields/PickField.vue";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import CompareSection from "./CompareSection.vue";
import { unsettled, useDay } from "./dayStore";
import EventsSection from "./EventsSection.vue";
import LedgerSection from "./LedgerSection.vue";
import MomentSection from "./MomentSection.vue";
import NumbersSection from "./NumbersSection.vue";
import PlanSection from "./PlanSection.vue";
import SlipSection from "./SlipSection.vue";
import StudyProgress from "./StudyProgress.vue";
import TimeLine from "./TimeLine.vue";
import VerdictSection from "./VerdictSection.vue";

const props = defineProps<{ jobId: string; variantId: string }>();

const day = useDay();
const schemes = useScheme();
const notices = useNotices();
const route = useRoute();
const router = useRouter();
const part = ref("day");
const findings = ref(false);
const adding = ref(false);
const moment = ref<InstanceType<typeof MomentSection> | null>(null);

const PARTS = [
  { id: "day", name: "Day" },
  { id: "plan", name: "Plan" },
  { id: "compare", name: "Compare" },
  { id: "slips", name: "Slip test" },
];

function opened() {
  const asked = (name: string) => (route.query[name] as string | undefined) ?? null;
  void day.open(props.variantId, {
    plan: asked("plan") ?? undefined,
    school: asked("school"),
    case: asked("case"),
  });
}

const plans = computed(
  () => day.plans?.plans.map((p) => ({ value: p.id, title: p.document.name })) ?? [],
);
const schools = computed(() => {
  const own = day.kept?.school === "own" ? [{ value: "own", title: "The plan's own moves" }] : [];
  const known = (day.plans?.schools ?? []).map((s) => ({
    value: s.id,
    title: `${s.id.length === 1 ? `${s.id.toUpperCase()} · ` : ""}${s.name}${s.why_not ? " (not on this boat)" : ""}`,
  }));
  return [...own, ...known];
});
const whyNot = computed(() => day.plans?.schools.find((s) => s.id === day.school)?.why_not ?? null);
const sheet = computed(() => day.day?.sheet ?? null);
const names = computed<Record<string, string>>(() => ({
  ...Object.fromEntries((schemes.scheme?.design.components ?? []).map((p) => [p.id, p.name])),
  ...Object.fromEntries(
    (schemes.scheme?.design.profiles ?? []).map((p) => [`profile ${p.id}`, p.name]),
  ),
}));
const running = computed(() => unsettled(day.study));

async function begin(ready: string) {
  adding.value = false;
  const fits = day.plans?.schools.find((s) => s.id !== "as_drawn" && !s.why_not);
  if (await day.newPlan(ready, fits?.id ?? "as_drawn")) await day.live();
}

function bringBack(plan: string) {
  adding.value = false;
  void day.bringBack(plan);
}

function seeCell(variant: string, plan: string, school: string) {
  part.value = "day";
  if (variant === props.variantId) {
    day.asked = { plan, school, case: null };
    void day.live();
  } else {
    void router.push({
      name: "day",
      params: { jobId: props.jobId, variantId: variant },
      query: { plan, school },
    });
  }
}

async function keepCsv() {
  const params = { path: { study_id: day.study?.id ?? "" } };
  try {
    const text = await unwrap(
      api.GET("/api/studies/{study_id}/day.csv", { params, parseAs: "text" }),
    );
    keepAs("day.csv", text as string, "text/csv");
  } catch (error) {
    notices.failed(error);
  }
}

watch(
  () => [schemes.scheme?.revision, schemes.scheme?.survey_revision],
  (now, before) => {
    // The moves of a school follow the switches; what was computed may be stale now.
    if (before?.[0] && now[0] && day.variant === props.variantId) void day.freshen();
  },
);

const keys: Key[] = [
  { key: "R", words: "Run the plan", run: () => void day.live() },
  { key: " ", words: "Play or pause", run: () => moment.value?.play() },
  { key: ",", words: "The event before", run: () => moment.value?.jump(-1) },
  { key: ".", words: "The event after", run: () => moment.value?.jump(1) },
  { key: "F", words: "Findings", run: () => (findings.value = !findings.value) },
  { key: "P", words: "Plan", run: () => (part.value = "plan") },
  { key: "C", words: "Compare", run: () => (part.value = "compare") },
  { key: "S", words: "Slip test", run: () => (part.value = "slips") },
];
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="day" :keys="keys" @opened="opened">
    <StageBody v-model:part="part" v-model:findings="findings" title="Day" :parts="PARTS">
      <template #top>
        <div v-if="day.plans" class="tray">
          <PickField
            v-if="plans.length"
            class="wide"
            label="Plan"
            :value="day.asked?.plan ?? null"
            :picks="plans"
            :save="(v) => !!day.choose(String(v))"
          />
          <PickField
            v-if="plans.length"
            class="wide"
            label="Handled by"
            :value="day.school"
            :picks="schools"
            :save="(v) => !!day.handle(String(v))"
          />
          <v-btn
            v-if="plans.length"
            color="secondary"
            variant="flat"
            :disabled="running"
            @click="day.live()"
          >
            {{ day.day ? "Run again" : "Run the day" }}
          </v-btn>
          <v-btn variant="outlined" @click="adding = !adding">New plan</v-btn>
          <v-btn v-if="day.day && part === 'day'" variant="text" @click="keepCsv">CSV out</v-btn>
          <span v-if="day.study?.stale && day.day" class="stale text-warning">
            ◆ Run with an older scheme or plan: run it again
          </span>
        </div>
        <div v-if="adding && day.plans" class="ready">
          <button v-for="one in day.plans.ready" :key="one.id" type="button" @click="begin(one.id)">
            <strong>{{ one.name }}</strong> {{ one.about }}
          </button>
          <button
            v-for="one in day.plans.dropped"
            :key="one.id"
            type="button"
            @click="bringBack(one.id)"
          >
            <strong>Bring {{ one.name }} back</strong> Taken away on {{ onDay(one.dropped) }}.
          </button>
        </div>
      </template>
      <template v-if="part === 'day'">
        <StudyProgress v-if="day.study" :study="day.study" what="Running the day" />
        <div v-if="day.refused" class="refused" role="alert">
          <strong>▲ {{ day.refused.detail }}</strong>
        </div>
        <p v-if="whyNot" class="text-warning">◆ Not a handling for this boat: {{ whyNot }}.</p>
        <p v-if="day.asked?.case && day.day" class="case">
          <strong>◆ One thing goes wrong in this day: {{ day.study?.ask.words }}</strong>
          <v-btn size="small" variant="text" @click="day.askCase(null)">Show it as planned</v-btn>
        </p>
        <template v-if="sheet">
          <VerdictSection :sheet="sheet" />
          <div class="beside">
            <div>
              <TimeLine :sheet="sheet" :at="day.at" :names="names" @point="day.point" />
              <NumbersSection :sheet="sheet" :names="names" />
            </div>
            <div>
              <MomentSection ref="moment" />
              <EventsSection :sheet="sheet" />
            </div>
          </div>
          <LedgerSection :sheet="sheet" :names="names" />
          <p class="cautions">
            ◆ Computed with typical figures of each chemistry and of usual gear, which the data
            sheets in hand override; a day that holds here is no promise. Local codes, the edition
            of the standard in force, makers' manuals and a licensed practitioner decide.
          </p>
        </template>
        <div v-else-if="day.plans && !running" class="start">
          <template v-if="plans.length">
            <p>This plan has not been run yet with the scheme and the plan as they stand now.</p>
            <v-btn color="secondary" variant="flat" size="large" @click="day.live()">
              Run the day
            </v-btn>
          </template>
          <template v-else>
            <h2>Pick a plan to begin with</h2>
            <div class="ready">
              <button
                v-for="one in day.plans.ready"
                :key="one.id"
                type="button"
                @click="begin(one.id)"
              >
                <strong>{{ one.name }}</strong> {{ one.about }}
              </button>
            </div>
          </template>
        </div>
      </template>
      <PlanSection v-else-if="part === 'plan' && day.kept" :kept="day.kept" />
      <CompareSection v-else-if="part === 'compare'" @cell="seeCell" />
      <SlipSection v-else-if="part === 'slips'" @day="part = 'day'" />
    </StageBody>
  </StageFrame>
</template>

<style scoped>
.tray {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 8px 12px;
  padding: 6px 16px 8px;
  background: rgb(var(--v-theme-tray));
}
.wide {
  width: 250px;
}
.stale {
  font-weight: 700;
  align-self: center;
}
.beside {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(320px, 420px);
  gap: 18px;
  margin-top: 10px;
}
.beside > div {
  min-width: 0;
}
.ready {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 8px;
  padding: 8px 16px;
}
.ready button {
  min-height: 64px;
  padding: 8px 14px;
  text-align: left;
  color: inherit;
  border: 1px solid rgb(var(--v-theme-ink), 0.3);
  border-radius: 12px;
  background: rgb(var(--v-theme-surface));
}
.ready button:hover {
  border-color: rgb(var(--v-theme-secondary));
}
.ready strong {
  display: block;
}
.start {
  padding: 24px 0;
}
.start .ready {
  padding: 8px 0;
}
.refused {
  border-left: 6px solid rgb(var(--v-theme-error));
  padding: 6px 14px;
  margin: 6px 0;
}
.case {
  display: flex;
  align-items: center;
  gap: 12px;
}
.cautions {
  max-width: 900px;
  margin-top: 12px;
  font-size: 0.92rem;
}
@media (max-width: 1179px) {
  .beside {
    grid-template-columns: 1fr;
  }
}
@media (max-width: 959px) {
  .tray {
    padding: 6px 12px;
  }
  .wide {
    width: calc(50% - 6px);
  }
}
</style>
