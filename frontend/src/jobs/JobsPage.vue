<script setup lang="ts">
import { mdiDownload, mdiLogout, mdiPlus, mdiUpload } from "@mdi/js";
import { onMounted, ref } from "vue";
import { useRouter } from "vue-router";

import { api, told, type Schemas } from "@/api/client";
import LightSwitch from "@/app/LightSwitch.vue";
import { useNotices } from "@/app/notices";
import { useSession } from "@/app/session";
import { SEVERITIES, type Severity } from "@/shared/severity";
import { length } from "@/shared/units";

import NewBoatDialog from "./NewBoatDialog.vue";

const store = useSession();
const notices = useNotices();
const router = useRouter();
const jobs = ref<Schemas["JobOut"][] | null>(null);
const picker = ref<HTMLInputElement | null>(null);
const busy = ref(false);
const entering = ref(false);

async function load() {
  try {
    jobs.value = await told(api.GET("/api/jobs"));
  } catch (error) {
    notices.failed(error);
  }
}

async function bringIn(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  busy.value = true;
  try {
    const text = await file.text();
    const job = await told(
      api.POST("/api/jobs/import", {
        body: text as never,
        bodySerializer: (body) => body,
        headers: { "Content-Type": "application/json" },
      }),
    );
    notices.said(`Brought in ${job.name}.`);
    await load();
  } catch (error) {
    notices.failed(error);
  } finally {
    busy.value = false;
    input.value = "";
  }
}

async function leave() {
  await store.signOut();
  await router.push({ name: "enter" });
}

function severity(worst: string | null) {
  return worst ? SEVERITIES[worst as Severity] : null;
}

onMounted(load);
</script>

<template>
  <v-app-bar color="bar" density="compact" flat>
    <v-app-bar-title class="flex-0-0 font-weight-bold">Strom</v-app-bar-title>
    <span class="text-truncate workshop">{{ store.session?.workshop }}</span>
    <v-spacer />
    <LightSwitch />
    <v-btn :icon="mdiLogout" size="small" aria-label="Sign out" title="Sign out" @click="leave" />
  </v-app-bar>
  <v-main>
    <div class="page">
      <div class="head">
        <h1>Jobs</h1>
        <span class="begin">
          <v-btn
            color="primary"
            variant="flat"
            size="large"
            :prepend-icon="mdiPlus"
            @click="entering = true"
          >
            New boat
          </v-btn>
          <v-btn size="large" :prepend-icon="mdiUpload" :loading="busy" @click="picker?.click()">
            Bring in a job file
          </v-btn>
        </span>
        <input
          ref="picker"
          type="file"
          accept=".json,application/json"
          hidden
          aria-label="Job file"
          @change="bringIn"
        />
      </div>
      <v-progress-linear v-if="!jobs" indeterminate aria-label="Loading jobs" />
      <p v-else-if="!jobs.length" class="empty">
        No job yet. Enter a boat, or bring in a job file; one can be exported from any job.
      </p>
      <v-card v-for="job in jobs" :key="job.id" class="job" :aria-label="job.name" tag="section">
        <div class="about">
          <h2>{{ job.name }}</h2>
          <p>{{ job.boat.kind }}, {{ length(job.boat.length_m) }}</p>
          <p class="notes">{{ job.boat.notes }}</p>
        </div>
        <ul class="variants">
          <li v-for="variant in job.variants" :key="variant.id">
            <router-link
              :to="{ name: 'scheme', params: { jobId: job.id, variantId: variant.id } }"
              class="open"
            >
              <span class="name">{{ variant.name }}</span>
              <span v-if="variant.chosen" class="chosen">chosen</span>
              <span
                v-if="severity(variant.worst)"
                class="worst"
                :class="`text-${severity(variant.worst)?.color}`"
              >
                {{ severity(variant.worst)?.mark }} {{ severity(variant.worst)?.word }},
                {{ variant.findings }} {{ variant.findings === 1 ? "finding" : "findings" }}
              </span>
              <span v-else class="worst text-success">no findings</span>
            </router-link>
          </li>
        </ul>
        <v-btn
          class="export"
          :prepend-icon="mdiDownload"
          variant="text"
          :href="`/api/jobs/${job.id}/export`"
          :aria-label="`Export ${job.name} as a file`"
        >
          Export
        </v-btn>
      </v-card>
    </div>
  </v-main>
  <NewBoatDialog v-model="entering" />
</template>

<style scoped>
.page {
  max-width: 1040px;
  margin: 0 auto;
  padding: 20px 16px 40px;
}
.workshop {
  opacity: 0.9;
  margin-left: 12px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 16px;
}
.begin {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.job {
  display: grid;
  grid-template-columns: minmax(220px, 1fr) minmax(300px, 1.3fr) auto;
  gap: 20px;
  padding: 16px 20px;
  margin-bottom: 14px;
}
h2 {
  font-size: 1.4rem;
}
.notes {
  margin-top: 8px;
}
.variants {
  list-style: none;
  padding: 0;
}
.open {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: baseline;
  min-height: 48px;
  padding: 11px 14px;
  margin-bottom: 6px;
  border-radius: 10px;
  color: inherit;
  text-decoration: none;
  background: rgb(var(--v-theme-surface-variant));
}
.open:hover {
  outline: 2px solid rgb(var(--v-theme-secondary));
}
.name {
  font-weight: 700;
  font-size: 1.05rem;
}
.chosen {
  border: 1px solid currentColor;
  border-radius: 99px;
  padding: 0 8px;
  font-size: 0.85rem;
}
.worst {
  margin-left: auto;
  font-weight: 600;
}
.export {
  align-self: start;
}
@media (max-width: 760px) {
  .job {
    grid-template-columns: 1fr;
    gap: 10px;
  }
}
</style>
