<script setup lang="ts">
/** A sheet to print and fill in aboard: ink on white, a box for every answer. */
import { computed, onMounted } from "vue";
import { useRouter } from "vue-router";

import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { length } from "@/shared/units";

import { useSurveyed } from "./useSurveyed";

const props = defineProps<{ jobId: string; variantId: string }>();
const open = useOpenJob();
const schemes = useScheme();
const notices = useNotices();
const router = useRouter();
const { report } = useSurveyed();
const sections = computed(() => {
  const rows = report.value?.to_find_out ?? [];
  return [...new Set(rows.map((row) => row.section))].map((name) => ({
    name,
    rows: rows.filter((row) => row.section === name),
  }));
});

onMounted(async () => {
  try {
    await open.open(props.jobId, props.variantId);
  } catch (error) {
    notices.failed(error);
    await router.push({ name: "jobs" });
  }
});
const print = () => window.print();
</script>

<template>
  <v-main>
    <article class="sheet">
      <div class="screen-only">
        <v-btn :to="{ name: 'survey', params: { jobId, variantId } }">Back to the survey</v-btn>
        <v-btn color="secondary" variant="flat" @click="print">Print</v-btn>
      </div>
      <header>
        <h1>Walk-round sheet: {{ open.job?.name }}</h1>
        <p v-if="open.job">
          {{ open.job.boat.kind }}, {{ length(open.job.boat.length_m) }} ·
          {{ schemes.scheme?.name }}
        </p>
        <p>Date ____________________ Surveyed by ____________________</p>
      </header>
      <p class="caution">
        Rings and bracelets off. Chargers off and solar covered before a spanner touches a post;
        negative off first. Petrol or gas smelt: stop, air the boat, find it. The local code, the
        makers' manuals and a licensed practitioner decide.
      </p>
      <section v-for="section in sections" :key="section.name">
        <h2>{{ section.name }}</h2>
        <table>
          <thead>
            <tr>
              <th>What</th>
              <th>To find out</th>
              <th>So far</th>
              <th class="answer">Answer</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in section.rows" :key="row.subject + row.question">
              <th scope="row">{{ row.subject }}</th>
              <td>{{ row.question }}</td>
              <td>{{ row.now }}</td>
              <td class="answer">{{ row.unit }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </article>
  </v-main>
</template>

<style scoped>
.sheet {
  max-width: 900px;
  margin: 0 auto;
  padding: 20px 28px 40px;
  background: #fff;
  color: #111;
}
.screen-only {
  display: flex;
  gap: 10px;
  margin-bottom: 16px;
  color: #111;
}
h1 {
  font-size: 1.5rem;
}
h2 {
  font-size: 1.1rem;
  margin-top: 16px;
}
.caution {
  border: 1.5px solid #111;
  padding: 6px 10px;
  margin: 10px 0;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  border: 1px solid #555;
  padding: 5px 8px;
  text-align: left;
  font-size: 0.92rem;
}
tr {
  break-inside: avoid;
}
.answer {
  width: 24%;
  text-align: right;
}
@media print {
  .screen-only {
    display: none;
  }
  .sheet {
    padding: 0;
    max-width: none;
  }
}
</style>
