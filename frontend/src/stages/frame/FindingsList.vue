<script setup lang="ts">
/** Findings beside every stage: counted live, grouped, filtered, repaired, waived. */
import { computed, ref } from "vue";

import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { SEVERITIES, type Severity } from "@/shared/severity";
import StandingLine from "@/shared/StandingLine.vue";
import { usePicking } from "@/stages/scheme/picking";
import { day } from "@/shared/formats";

import FindingCard from "./FindingCard.vue";
import { groupsOf, placesOf, STAGE_NAMES, type Finding, type Grouping } from "./findings";
import RepairAllDialog from "./RepairAllDialog.vue";
import WaiveDialog from "./WaiveDialog.vue";

const emit = defineEmits<{ shown: [] }>();
const schemes = useScheme();
const open = useOpenJob();
const picking = usePicking();
const severity = ref<Severity | null>(null);
const stage = ref("");
const place = ref("");
const grouping = ref<Grouping>("severity");
const waiving = ref<Finding | null>(null);
const repairing = ref(false);

const all = computed(() => schemes.counting);
const waived = computed(() => {
  const standing = schemes.findings?.waivers.filter((w) => !w.lapsed) ?? [];
  const by = new Map(standing.map((w) => [w.finding, w]));
  return (schemes.findings?.findings ?? []).flatMap((finding) => {
    const waiver = by.get(finding.key);
    return waiver ? [{ finding, waiver }] : [];
  });
});
const lapsed = computed(() => schemes.findings?.waivers.filter((w) => w.lapsed) ?? []);
const counts = computed(() =>
  (Object.keys(SEVERITIES) as Severity[])
    .map((one) => ({ one, count: all.value.filter((f) => f.severity === one).length }))
    .filter((item) => item.count > 0),
);
const design = computed(() => schemes.scheme?.design ?? null);
const stageOf = (finding: Finding) => schemes.findings?.stages[finding.rule] ?? "";
const stages = computed(() => [...new Set(all.value.map(stageOf))].filter(Boolean));
const places = computed(() => [
  ...new Set(all.value.flatMap((finding) => placesOf(finding, design.value))),
]);
const listed = computed(() =>
  all.value.filter(
    (f) =>
      (severity.value === null || f.severity === severity.value) &&
      (!stage.value || stageOf(f) === stage.value) &&
      (!place.value || placesOf(f, design.value).includes(place.value)),
  ),
);
const groups = computed(() => groupsOf(listed.value, grouping.value, design.value, stageOf));
const safe = computed(() => schemes.findings?.safe.length ?? 0);
const params = computed(() => ({ jobId: open.ids.job, variantId: open.ids.variant }));

function show(finding: Finding) {
  const cable = design.value?.cables.find((c) => c.id === finding.about);
  if (cable) picking.pick("cable", cable.id);
  else if (finding.parts[0]) picking.pick("part", finding.parts[0]);
  else return;
  emit("shown");
}
</script>

<template>
  <div class="findings">
    <StandingLine
      v-if="schemes.findings && schemes.parts.length"
      :standing="schemes.findings.standing"
    />
    <div v-if="counts.length" class="counts" role="group" aria-label="Show one severity">
      <button
        v-for="item in counts"
        :key="item.one"
        type="button"
        :class="[`text-${SEVERITIES[item.one].color}`, { on: severity === item.one }]"
        :aria-pressed="severity === item.one"
        @click="severity = severity === item.one ? null : item.one"
      >
        {{ SEVERITIES[item.one].mark }} {{ item.count }} {{ SEVERITIES[item.one].word }}
      </button>
    </div>
    <div v-if="all.length" class="filters">
      <label>
        Group by
        <select v-model="grouping">
          <option value="severity">severity</option>
          <option value="stage">stage</option>
          <option value="place">place</option>
          <option value="rule">rule</option>
        </select>
      </label>
      <label>
        Stage
        <select v-model="stage">
          <option value="">all</option>
          <option v-for="one in stages" :key="one" :value="one">{{ STAGE_NAMES[one] }}</option>
        </select>
      </label>
      <label>
        Place
        <select v-model="place">
          <option value="">all</option>
          <option v-for="one in places" :key="one" :value="one">{{ one }}</option>
        </select>
      </label>
    </div>
    <div class="acts">
      <v-btn
        v-if="safe"
        size="small"
        color="secondary"
        variant="flat"
        :disabled="schemes.busy"
        @click="repairing = true"
      >
        Repair all that are safe ({{ safe }})
      </v-btn>
      <template v-if="params.jobId">
        <v-btn size="small" variant="text" :to="{ name: 'report', params }">Report</v-btn>
        <v-btn size="small" variant="text" :to="{ name: 'rules', params }">Rule book</v-btn>
      </template>
    </div>
    <p v-if="schemes.scheme && !schemes.parts.length" class="none">
      ? This scheme is empty: there is nothing that a rule could check.
    </p>
    <p v-else-if="schemes.findings && !all.length" class="none">
      ✓ No rule finds anything here{{ waived.length ? " that is not waived" : "" }}.
    </p>
    <p v-else-if="all.length && !listed.length" class="none">Nothing fits these filters.</p>
    <section v-for="group in groups" :key="group.name">
      <h3 v-if="groups.length > 1 || grouping !== 'severity'" class="group">
        {{ group.name }} <small>{{ group.findings.length }}</small>
      </h3>
      <FindingCard
        v-for="finding in group.findings"
        :key="`${finding.key} ${finding.title}`"
        :finding="finding"
        @show="show(finding)"
        @waive="waiving = finding"
      />
    </section>
    <p v-for="waiver in lapsed" :key="waiver.id" class="text-warning">
      ◆ {{ waiver.rule }} was waived as “{{ waiver.reason }}”; it is graver now, and counts again.
    </p>
    <section v-if="waived.length">
      <h3 class="group">
        Waived <small>{{ waived.length }}</small>
      </h3>
      <article v-for="{ finding, waiver } in waived" :key="waiver.id" class="waived">
        <strong>{{ finding.rule }} {{ finding.title }}</strong>
        <p>
          “{{ waiver.reason }}” {{ waiver.author }},
          {{ day(waiver.created) }}
        </p>
        <v-btn size="small" variant="text" @click="schemes.withdraw(waiver.id)">
          Withdraw the waiver
        </v-btn>
      </article>
    </section>
    <p class="caution">
      These checks do not replace the local code, the makers' manuals or a licensed practitioner.
      Figures of standards: {{ schemes.findings?.confirm ?? "confirm in the edition in force" }}.
    </p>
    <WaiveDialog v-if="waiving" :finding="waiving" @close="waiving = null" />
    <RepairAllDialog v-if="repairing" @close="repairing = false" />
  </div>
</template>

<style scoped>
.findings {
  padding: 10px 12px 24px;
}
.counts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-bottom: 8px;
}
.counts button {
  border: 1.5px solid currentColor;
  border-radius: 99px;
  padding: 3px 10px;
  min-height: 32px;
  font-weight: 700;
  font-size: 0.88rem;
}
.counts .on {
  background: rgb(var(--v-theme-surface-variant));
}
.filters {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
  font-size: 0.8rem;
}
.filters select {
  display: block;
  width: 100%;
  height: 34px;
  padding: 0 4px;
  font: inherit;
  font-size: 0.88rem;
  color: rgb(var(--v-theme-on-surface));
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-ink), 0.3);
  border-radius: 6px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  margin: 8px 0;
}
.group {
  font-size: 0.98rem;
  margin: 10px 0 6px;
  text-transform: capitalize;
}
.waived {
  border: 1px dashed rgb(var(--v-theme-ink), 0.4);
  border-radius: 8px;
  padding: 6px 10px;
  margin-bottom: 8px;
  line-height: 1.2;
}
.caution {
  font-size: 0.85rem;
  margin-top: 12px;
}
</style>
