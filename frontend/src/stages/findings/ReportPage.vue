<script setup lang="ts">
/** Findings and runs on paper: every finding with its arithmetic, waivers with their reason. */
import { computed, onMounted } from "vue";
import { useRouter } from "vue-router";

import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { SEVERITIES, type Severity } from "@/shared/severity";
import { amps, copper, finePercent, length } from "@/shared/units";
import { useRuns } from "@/stages/runs/runs";
import { day } from "@/shared/formats";

const props = defineProps<{ jobId: string; variantId: string }>();
const open = useOpenJob();
const schemes = useScheme();
const notices = useNotices();
const router = useRouter();
const { report } = useRuns();

const waivers = computed(
  () =>
    new Map(
      schemes.findings?.waivers.filter((w) => !w.lapsed).map((waiver) => [waiver.finding, waiver]),
    ),
);
const groups = computed(() =>
  (Object.keys(SEVERITIES) as Severity[])
    .map((severity) => ({
      severity,
      findings: schemes.counting.filter((f) => f.severity === severity),
    }))
    .filter((group) => group.findings.length),
);
const waived = computed(() =>
  (schemes.findings?.findings ?? []).filter((f) => waivers.value.has(f.key)),
);
const today = day(new Date());
const print = () => window.print();

onMounted(async () => {
  try {
    await open.open(props.jobId, props.variantId);
  } catch (error) {
    notices.failed(error);
    await router.push({ name: "jobs" });
  }
});
</script>

<template>
  <v-main>
    <v-theme-provider theme="paper" with-background class="paper">
      <div class="screen-only">
        <v-btn :to="{ name: 'runs', params: { jobId, variantId } }">Back to the runs</v-btn>
        <v-btn color="secondary" variant="flat" @click="print">Print</v-btn>
      </div>
      <article class="sheet">
        <h1>{{ open.job?.name }}: {{ schemes.scheme?.name }}</h1>
        <p>
          Findings and runs, version {{ schemes.scheme?.revision }}, {{ today }}.
          <template v-for="group in groups" :key="group.severity">
            <strong>
              {{ SEVERITIES[group.severity].mark }} {{ group.findings.length }}
              {{ SEVERITIES[group.severity].word }}
            </strong>
            {{ " " }}
          </template>
          <template v-if="waived.length">· {{ waived.length }} waived</template>
        </p>
        <p>
          The local code, the edition of the standard in force, makers' manuals and a licensed
          practitioner decide. Figures of standards: {{ schemes.findings?.confirm }}.
        </p>
        <section v-for="group in groups" :key="group.severity">
          <h2>{{ SEVERITIES[group.severity].mark }} {{ SEVERITIES[group.severity].word }}</h2>
          <div v-for="finding in group.findings" :key="finding.key + finding.title" class="one">
            <h3>{{ finding.rule }} {{ finding.title }}</h3>
            <p>{{ finding.why }}</p>
            <p v-for="line in finding.arithmetic" :key="line" class="line">{{ line }}</p>
            <p>
              <strong>Limit:</strong> {{ finding.limit }}. <strong>Repair:</strong>
              {{ finding.repair }}
            </p>
            <p v-if="finding.missing"><strong>Find out:</strong> {{ finding.missing }}</p>
            <p class="source">{{ finding.source }}</p>
          </div>
        </section>
        <section v-if="waived.length">
          <h2>Waived</h2>
          <div v-for="finding in waived" :key="finding.key" class="one">
            <h3>{{ SEVERITIES[finding.severity].mark }} {{ finding.rule }} {{ finding.title }}</h3>
            <p>
              “{{ waivers.get(finding.key)?.reason }}”
              {{ waivers.get(finding.key)?.author ?? "somebody who has left" }},
              {{ day(waivers.get(finding.key)?.created ?? "") }}
            </p>
          </div>
        </section>
        <section v-if="report" class="runs">
          <h2>Runs</h2>
          <table>
            <thead>
              <tr>
                <th>Label</th>
                <th>Run</th>
                <th>Size</th>
                <th>Length</th>
                <th>Sized for</th>
                <th>Path lost</th>
                <th>Device</th>
                <th>Copper</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in report.report.rows" :key="row.id">
                <td>{{ row.legs.map((leg) => leg.label).join(" ") }}</td>
                <td>{{ row.name }}</td>
                <td>{{ row.legs.map((leg) => leg.gauge).join(" / ") }}</td>
                <td>{{ length(row.length_m) }}{{ row.measured ? "" : " est." }}</td>
                <td>{{ amps(row.current_a) }}</td>
                <td>{{ finePercent(row.path_percent) }}</td>
                <td>{{ row.device_name ? `${row.device_name}, ${row.device_a} A` : "–" }}</td>
                <td>{{ copper(row.copper_kg) }}</td>
              </tr>
            </tbody>
          </table>
          <p v-for="line in report.report.cautions" :key="line">◆ {{ line }}</p>
        </section>
      </article>
    </v-theme-provider>
  </v-main>
</template>

<style scoped>
.paper {
  min-height: 100dvh;
  padding: 12px 18px;
}
.screen-only {
  display: flex;
  gap: 8px;
}
.sheet {
  max-width: 960px;
  margin: 0 auto;
}
h1 {
  font-size: 1.4rem;
  margin-top: 10px;
}
h2 {
  font-size: 1.15rem;
  margin: 16px 0 4px;
  text-transform: capitalize;
  border-bottom: 2px solid currentColor;
}
h3 {
  font-size: 1rem;
}
.one {
  break-inside: avoid;
  margin-bottom: 10px;
}
.line {
  margin-left: 16px;
  font-size: 0.9rem;
}
.source {
  font-size: 0.8rem;
  font-style: italic;
}
.runs {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 0.82rem;
}
th,
td {
  text-align: left;
  padding: 2px 6px;
  border: 1px solid rgb(0 0 0 / 35%);
}
tr {
  break-inside: avoid;
}
@media print {
  .screen-only {
    display: none;
  }
  .paper {
    padding: 0;
  }
}
</style>
