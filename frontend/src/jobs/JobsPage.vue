<script setup lang="ts">
import { mdiPlus, mdiUpload } from "@mdi/js";
import { useInfiniteQuery, useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import AccountMenu from "@/app/AccountMenu.vue";
import LightSwitch from "@/app/LightSwitch.vue";
import { useNotices } from "@/app/notices";
import { useSession } from "@/app/session";

import JobCard from "./JobCard.vue";
import JobDialog from "./JobDialog.vue";
import NewBoatDialog from "./NewBoatDialog.vue";
import ServiceDue from "./ServiceDue.vue";
import { STATES, type State } from "./states";
import TemplateDialog from "./TemplateDialog.vue";

type Job = Schemas["JobOut"];
type Shelf = "open" | "archived" | "bin";
type Sort = "changed" | "name" | "state";

const store = useSession();
const notices = useNotices();
const picker = ref<HTMLInputElement | null>(null);
const busy = ref(false);
const entering = ref(false);
const editing = ref<Job | null>(null);
const copying = ref<Job | null>(null);

const SHELVES: Record<Shelf, string> = { open: "Jobs", archived: "Archive", bin: "Bin" };
const shelf = ref<Shelf>("open");
const typed = ref("");
const words = ref("");
const state = ref<State | "">("");
const sort = ref<Sort>("changed");
const SETTLES_MS = 250;
let settles: ReturnType<typeof setTimeout> | undefined;
watch(typed, () => {
  clearTimeout(settles);
  settles = setTimeout(() => (words.value = typed.value.trim()), SETTLES_MS);
});

/** What is asked beside the usual: the usual list is also there without a server. */
const asked = computed(() => ({
  shelf: shelf.value === "open" ? undefined : shelf.value,
  words: words.value || undefined,
  state: state.value || undefined,
  sort: sort.value === "changed" ? undefined : sort.value,
}));
const COUNTED_AGAIN_MS = 2000;
const isCounting = (listed: Job[]) =>
  listed.some((job) => job.variants.some((variant) => variant.counting));
const list = useInfiniteQuery(
  {
    queryKey: ["jobs", asked],
    queryFn: ({ pageParam }) =>
      unwrap(
        api.GET("/api/jobs", {
          params: { query: { ...asked.value, offset: pageParam || undefined } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const read = pages.reduce((sum, page) => sum + page.jobs.length, 0);
      return last.jobs.length && read < last.total ? read : undefined;
    },
    // What was found stays until the next answer is there.
    placeholderData: (before) => before,
    // While workers count findings the list is asked for again.
    refetchInterval: ({ state: { data } }) =>
      isCounting(data?.pages.flatMap((page) => page.jobs) ?? []) && COUNTED_AGAIN_MS,
  },
  queries,
);
const jobs = computed(() => list.data.value?.pages.flatMap((page) => page.jobs) ?? null);
const total = computed(() => list.data.value?.pages.at(-1)?.total ?? 0);
const looksFor = computed(() => Boolean(words.value || state.value));
watch(list.error, (failed) => failed && notices.failed(failed));

const due = useQuery(
  { queryKey: ["service due"], queryFn: () => unwrap(api.GET("/api/service/due")) },
  queries,
);
const overdue = (job: Job) =>
  (due.data.value ?? []).filter((one) => one.job === job.id && one.standing === "overdue").length;

async function bringIn(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  busy.value = true;
  try {
    const job = await (file.name.endsWith(".zip") ? archive(file) : jobFile(await file.text()));
    notices.said(`Brought in ${job.name}.`);
    await list.refetch();
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

async function done(ask: () => Promise<unknown>, words: string) {
  try {
    await ask();
    notices.said(words);
  } catch (error) {
    notices.failed(error);
  }
  await list.refetch();
}

const at = (job: Job) => ({ path: { job_id: job.id } });
const change = (job: Job, body: Partial<Schemas["JobIn"]>, words: string) =>
  done(() => unwrap(api.PATCH("/api/jobs/{job_id}", { params: at(job), body })), words);

function setState(job: Job, to: State) {
  const told = STATES.find((one) => one.id === to)?.words.toLowerCase();
  return change(job, { state: to }, `${job.name}: ${told}.`);
}
const toArchive = (job: Job, archived: boolean) =>
  change(
    job,
    { archived },
    archived ? `${job.name} is in the archive.` : `${job.name} is back among the jobs.`,
  );
const toBin = (job: Job, binned: boolean) =>
  binned
    ? done(
        () => unwrap(api.DELETE("/api/jobs/{job_id}", { params: at(job) })),
        `${job.name} is in the bin, from where it can be taken out again.`,
      )
    : done(
        () => unwrap(api.POST("/api/jobs/{job_id}/unbin", { params: at(job) })),
        `${job.name} is back among the jobs.`,
      );

async function edited(fields: Partial<Schemas["JobIn"]>) {
  const job = editing.value;
  editing.value = null;
  if (job) await change(job, fields, `${fields.name?.trim()}: kept.`);
}

async function begin(name: string) {
  const job = copying.value;
  copying.value = null;
  if (!job) return;
  const path = "/api/jobs/{job_id}/template";
  await done(
    () => unwrap(api.POST(path, { params: at(job), body: { name } })),
    `${name.trim()} begins as ${job.name} stands; everything is assumed until it is read aboard.`,
  );
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
        <h1>{{ SHELVES[shelf] }}</h1>
        <p v-if="!store.mayWrite" class="reader">Reader: looks at everything, changes nothing.</p>
        <span v-else class="begin">
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
      <div class="asked look">
        <label class="ask search">
          <span class="d-sr-only">Search: boat, owner, complaint, gear</span>
          <input
            v-model="typed"
            type="search"
            placeholder="Search: boat, owner, complaint, gear"
            aria-label="Search: boat, owner, complaint, gear"
          />
        </label>
        <select v-model="state" class="boxed" aria-label="Where the work stands">
          <option value="">any state</option>
          <option v-for="one in STATES" :key="one.id" :value="one.id">{{ one.words }}</option>
        </select>
        <select v-model="sort" class="boxed" aria-label="Sorted by">
          <option value="changed">changed last first</option>
          <option value="name">by name</option>
          <option value="state">by state</option>
        </select>
        <select v-model="shelf" class="boxed" aria-label="Which jobs">
          <option v-for="(told, id) in SHELVES" :key="id" :value="id">{{ told }}</option>
        </select>
      </div>
      <ServiceDue v-if="shelf === 'open'" :all="due.data.value ?? []" />
      <v-progress-linear v-if="!jobs" indeterminate aria-label="Loading jobs" />
      <p v-else-if="!jobs.length && looksFor" class="empty" role="status">
        No job has all of this.
      </p>
      <p v-else-if="!jobs.length && shelf !== 'open'" class="empty">Nothing is in here.</p>
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
      <JobCard
        v-for="job in jobs"
        :key="job.id"
        :job="job"
        :overdue="overdue(job)"
        :may-write="store.mayWrite"
        @state="setState(job, $event)"
        @edit="editing = job"
        @template="copying = job"
        @archive="toArchive(job, $event)"
        @bin="toBin(job, $event)"
      />
      <p v-if="jobs && list.hasNextPage.value" class="empty">
        {{ jobs.length }} of {{ total }} jobs are shown.
        <v-btn
          size="large"
          variant="outlined"
          :loading="list.isFetchingNextPage.value"
          @click="list.fetchNextPage()"
        >
          Show more
        </v-btn>
      </p>
    </div>
  </v-main>
  <NewBoatDialog v-model="entering" />
  <JobDialog :job="editing" @keep="edited" @close="editing = null" />
  <TemplateDialog :job="copying" @begin="begin" @close="copying = null" />
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
.look {
  gap: 10px;
  margin-bottom: 14px;
}
.search {
  flex: 1 1 260px;
}
.look select {
  flex: 0 1 auto;
  min-width: 0;
}
@media (max-width: 600px) {
  .search {
    flex: 1 0 100%;
  }
  .look select {
    flex: 1 1 0;
    padding-inline: 6px;
  }
}
.begin {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
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
</style>
