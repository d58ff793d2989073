<script setup lang="ts">
import {
  mdiDelete,
  mdiDeleteRestore,
  mdiDotsVertical,
  mdiDownload,
  mdiPencil,
  mdiPlus,
  mdiUpload,
} from "@mdi/js";
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { useDisplay } from "vuetify";

import { api, unwrap, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import AccountMenu from "@/app/AccountMenu.vue";
import LightSwitch from "@/app/LightSwitch.vue";
import { useNotices } from "@/app/notices";
import { useSession } from "@/app/session";
import { SEVERITIES, type Severity } from "@/shared/severity";
import { length } from "@/shared/units";

import NewBoatDialog from "./NewBoatDialog.vue";
import RenameDialog from "./RenameDialog.vue";
import ServiceDue from "./ServiceDue.vue";

const store = useSession();
const notices = useNotices();
const picker = ref<HTMLInputElement | null>(null);
const busy = ref(false);
const entering = ref(false);
/** Whether the bin is shown in place of the jobs. */
const binned = ref(false);
const renaming = ref<Schemas["JobOut"] | null>(null);

const COUNTED_AGAIN_MS = 2000;
const isCounting = (listed?: Schemas["JobOut"][]) =>
  listed?.some((job) => job.variants.some((variant) => variant.counting)) ?? false;
const { mdAndUp } = useDisplay();
const list = useQuery(
  {
    queryKey: ["jobs", binned],
    queryFn: () => unwrap(api.GET("/api/jobs", { params: { query: { binned: binned.value } } })),
    // While workers count findings the list is asked for again.
    refetchInterval: ({ state }) => isCounting(state.data) && COUNTED_AGAIN_MS,
  },
  queries,
);
const words = ref("");
/** Those in whose name, boat or complaint every word typed is found. */
const jobs = computed(() => {
  const wanted = words.value.toLowerCase().split(/\s+/).filter(Boolean);
  const said = ({ name, boat }: Schemas["JobOut"]) =>
    `${name} ${boat.kind} ${boat.notes}`.toLowerCase();
  return list.data.value?.filter((job) => wanted.every((one) => said(job).includes(one))) ?? null;
});
watch(list.error, (failed) => failed && notices.failed(failed));
const load = () => list.refetch();

async function bringIn(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  busy.value = true;
  try {
    const job = await (file.name.endsWith(".zip") ? archive(file) : jobFile(await file.text()));
    notices.said(`Brought in ${job.name}.`);
    await load();
  } catch (error) {
    notices.failed(error);
  } finally {
    busy.value = false;
    input.value = "";
  }
}

const asIs = { bodySerializer: (body: unknown) => body };

const jobFile = (text: string) =>
  unwrap(
    api.POST("/api/jobs/import", {
      body: text as never,
      headers: { "Content-Type": "application/json" },
      ...asIs,
    }),
  );

const archive = (file: File) =>
  unwrap(
    api.POST("/api/archives", {
      body: file as never,
      headers: { "Content-Type": "application/zip" },
      ...asIs,
    }),
  );

function showBin(show: boolean) {
  binned.value = show;
}

async function done(ask: () => Promise<unknown>, words: string) {
  try {
    await ask();
    notices.said(words);
    await load();
  } catch (error) {
    notices.failed(error);
  }
}

const at = (job: Schemas["JobOut"]) => ({ path: { job_id: job.id } });
const toBin = (job: Schemas["JobOut"]) =>
  done(
    () => unwrap(api.DELETE("/api/jobs/{job_id}", { params: at(job) })),
    `${job.name} is in the bin, from where it can be taken out again.`,
  );
const outOfBin = (job: Schemas["JobOut"]) =>
  done(
    () => unwrap(api.POST("/api/jobs/{job_id}/unbin", { params: at(job) })),
    `${job.name} is back among the jobs.`,
  );

async function rename(name: string) {
  const job = renaming.value;
  renaming.value = null;
  if (!job || !name.trim() || name.trim() === job.name) return;
  await done(
    () => unwrap(api.PATCH("/api/jobs/{job_id}", { params: at(job), body: { name } })),
    `${job.name} is now called ${name.trim()}.`,
  );
}

function severity(worst: string | null) {
  return worst ? SEVERITIES[worst as Severity] : null;
}
</script>

<template>
  <v-app-bar color="bar" density="compact" flat>
    <v-app-bar-title class="flex-0-0 font-weight-bold">Strom</v-app-bar-title>
    <span class="text-truncate workshop">{{ store.session?.workshop }}</span>
    <v-spacer />
    <LightSwitch />
    <AccountMenu />
  </v-app-bar>
  <v-main>
    <div class="page">
      <div class="head">
        <h1>{{ binned ? "Bin" : "Jobs" }}</h1>
        <p v-if="!store.mayWrite" class="reader">Reader: looks at everything, changes nothing.</p>
        <span v-else class="begin">
          <v-btn size="large" variant="text" @click="showBin(!binned)">
            {{ binned ? "All jobs" : "Bin" }}
          </v-btn>
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
          accept=".json,.zip,application/json,application/zip"
          hidden
          aria-label="Job file"
          @change="bringIn"
        />
      </div>
      <label v-if="list.data.value?.length" class="ask search">
        <span class="d-sr-only">Search: boat, kind, complaint</span>
        <input
          v-model="words"
          type="search"
          placeholder="Search: boat, kind, complaint"
          aria-label="Search: boat, kind, complaint"
        />
      </label>
      <ServiceDue v-if="!binned" />
      <v-progress-linear v-if="!jobs" indeterminate aria-label="Loading jobs" />
      <p v-else-if="!jobs.length && list.data.value?.length" class="empty" role="status">
        None of {{ list.data.value.length }} has all of these words.
      </p>
      <p v-else-if="!jobs.length && binned" class="empty">The bin is empty.</p>
      <section v-else-if="!jobs.length" class="empty first" aria-label="What to do first">
        <h2>No boat here yet. From one to a proposal in three steps:</h2>
        <ol>
          <li><strong>New boat</strong>: her kind gives usual figures, each marked as assumed.</li>
          <li>
            <strong>Scheme, Patterns</strong>: pick one; it comes wired, sized and protected, with
            what is still to ask the owner.
          </li>
          <li><strong>Survey</strong>: put right aboard what was assumed; everything follows.</li>
        </ol>
        <v-btn color="primary" variant="flat" size="x-large" @click="entering = true">
          Enter the first boat
        </v-btn>
        <p>Or bring in a job file: one can be exported from any job.</p>
      </section>
      <v-card v-for="job in jobs" :key="job.id" class="job" :aria-label="job.name" tag="section">
        <div class="about">
          <h2>{{ job.name }}</h2>
          <p v-if="job.boat.length_m">{{ job.boat.kind }}, {{ length(job.boat.length_m) }}</p>
          <p v-else class="text-error">■ {{ job.boat.kind }}</p>
          <p class="notes">{{ job.boat.notes }}</p>
          <p v-if="job.goes">
            <strong>Goes for good on {{ job.goes.slice(0, 10) }}</strong>
          </p>
        </div>
        <v-btn
          v-if="binned && store.mayWrite"
          class="back"
          variant="flat"
          color="primary"
          :prepend-icon="mdiDeleteRestore"
          @click="outOfBin(job)"
        >
          Take out of the bin
        </v-btn>
        <ul v-if="!binned" class="variants">
          <li v-for="variant in job.variants" :key="variant.id">
            <router-link
              :to="{
                name: mdAndUp ? 'scheme' : 'today',
                params: { jobId: job.id, variantId: variant.id },
              }"
              class="open"
            >
              <span class="name">{{ variant.name }}</span>
              <span v-if="variant.chosen" class="chosen">chosen</span>
              <span v-if="variant.problem" class="worst text-error">■ {{ variant.problem }}</span>
              <span
                v-else-if="severity(variant.worst)"
                class="worst"
                :class="`text-${severity(variant.worst)?.color}`"
              >
                {{ severity(variant.worst)?.mark }} {{ severity(variant.worst)?.word }},
                {{ variant.findings }} {{ variant.findings === 1 ? "finding" : "findings" }}
              </span>
              <span v-else-if="variant.counting" class="worst">findings are being counted</span>
              <span v-else class="worst text-success">no findings</span>
            </router-link>
          </li>
        </ul>
        <v-btn
          v-if="!binned"
          class="more"
          :icon="mdiDotsVertical"
          variant="text"
          :aria-label="`What can be done with ${job.name}`"
        >
          <v-icon :icon="mdiDotsVertical" />
          <v-menu activator="parent">
            <v-list :aria-label="`What can be done with ${job.name}`">
              <v-list-item
                :prepend-icon="mdiDownload"
                :href="`/api/jobs/${job.id}/export`"
                :aria-label="`Export ${job.name} as a file`"
              >
                Export as a file
              </v-list-item>
              <v-list-item v-if="store.mayWrite" :prepend-icon="mdiPencil" @click="renaming = job">
                Rename
              </v-list-item>
              <v-list-item v-if="store.mayWrite" :prepend-icon="mdiDelete" @click="toBin(job)">
                Put into the bin
              </v-list-item>
            </v-list>
          </v-menu>
        </v-btn>
      </v-card>
    </div>
  </v-main>
  <NewBoatDialog v-model="entering" />
  <RenameDialog :name="renaming?.name ?? null" @rename="rename" @close="renaming = null" />
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
.search {
  display: block;
  margin-bottom: 14px;
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
.first li,
.first p {
  padding: 6px 0;
}
.first ol {
  margin: 10px 0 14px;
  padding-left: 24px;
  font-size: 1.1rem;
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
.more {
  align-self: start;
}
.back {
  justify-self: start;
}
@media (max-width: 760px) {
  .job {
    grid-template-columns: 1fr;
    gap: 10px;
  }
}
</style>
