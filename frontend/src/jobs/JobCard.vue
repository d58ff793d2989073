<script setup lang="ts">
/** One job: the boat, whose she is, where the work stands, its variants and their findings. */
import {
  mdiArchiveArrowDown,
  mdiArchiveArrowUp,
  mdiContentDuplicate,
  mdiDelete,
  mdiDeleteRestore,
  mdiDotsVertical,
  mdiDownload,
  mdiPencil,
} from "@mdi/js";
import { computed } from "vue";
import { useDisplay } from "vuetify";

import type { Schemas } from "@/api/client";
import { SEVERITIES, type Severity } from "@/shared/severity";
import { length } from "@/shared/units";
import { day } from "@/shared/formats";

import { STATES, type State } from "./states";

const props = defineProps<{ job: Schemas["JobOut"]; overdue: number; mayWrite: boolean }>();
const emit = defineEmits<{
  state: [state: State];
  edit: [];
  template: [];
  archive: [archived: boolean];
  bin: [binned: boolean];
}>();
const { mdAndUp } = useDisplay();

const drawn = computed(
  () => props.job.variants.find((variant) => variant.chosen) ?? props.job.variants[0],
);
const sketch = computed(() => ({
  maskImage: drawn.value && `url("/api/variants/${drawn.value.id}/sketch.svg")`,
}));
const stateWords = computed(() => STATES.find((one) => one.id === props.job.state)?.words);

function severity(worst: string | null) {
  return worst ? SEVERITIES[worst as Severity] : null;
}
</script>

<template>
  <v-card class="job" :aria-label="job.name" tag="section">
    <div class="about">
      <h2>{{ job.name }}</h2>
      <p v-if="job.boat.length_m">{{ job.boat.kind }}, {{ length(job.boat.length_m) }}</p>
      <p v-else class="text-error">■ {{ job.boat.kind }}</p>
      <p v-if="job.owner">
        <strong>{{ job.owner }}</strong>
        <span v-if="job.contact" class="contact">{{ job.contact }}</span>
      </p>
      <p class="notes">{{ job.boat.notes }}</p>
      <p v-if="job.goes">
        <strong>Goes for good on {{ day(job.goes) }}</strong>
      </p>
      <router-link
        v-if="overdue && drawn"
        class="text-error overdue"
        :to="{ name: 'log', params: { jobId: job.id, variantId: drawn.id } }"
      >
        ▲ {{ overdue }} {{ overdue === 1 ? "service" : "services" }} overdue
      </router-link>
    </div>
    <div class="stands">
      <select
        v-if="mayWrite && !job.binned"
        class="boxed"
        :value="job.state"
        :aria-label="`Where the work on ${job.name} stands`"
        @change="emit('state', ($event.target as HTMLSelectElement).value as State)"
      >
        <option v-for="one in STATES" :key="one.id" :value="one.id">{{ one.words }}</option>
      </select>
      <span v-else>{{ stateWords }}</span>
      <v-lazy :min-height="84">
        <div class="sketch" :style="sketch" />
      </v-lazy>
    </div>
    <v-btn
      v-if="job.binned && mayWrite"
      class="back"
      variant="flat"
      color="primary"
      :prepend-icon="mdiDeleteRestore"
      @click="emit('bin', false)"
    >
      Take out of the bin
    </v-btn>
    <ul v-if="!job.binned" class="variants">
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
      v-if="!job.binned"
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
          <template v-if="mayWrite">
            <v-list-item :prepend-icon="mdiPencil" @click="emit('edit')">
              Name and owner
            </v-list-item>
            <v-list-item :prepend-icon="mdiContentDuplicate" @click="emit('template')">
              Another boat like this one
            </v-list-item>
            <v-list-item
              :prepend-icon="job.archived ? mdiArchiveArrowUp : mdiArchiveArrowDown"
              @click="emit('archive', !job.archived)"
            >
              {{ job.archived ? "Take out of the archive" : "Put into the archive" }}
            </v-list-item>
            <v-list-item :prepend-icon="mdiDelete" @click="emit('bin', true)">
              Put into the bin
            </v-list-item>
          </template>
        </v-list>
      </v-menu>
    </v-btn>
  </v-card>
</template>

<style scoped>
.job {
  display: grid;
  grid-template-columns: minmax(200px, 1fr) 150px minmax(280px, 1.3fr) auto;
  gap: 18px;
  padding: 16px 20px;
  margin-bottom: 14px;
}
h2 {
  font-size: 1.4rem;
}
.contact {
  display: block;
  white-space: pre-line;
}
.notes {
  margin-top: 8px;
}
.overdue {
  display: inline-block;
  min-height: 32px;
  font-weight: 600;
}
.stands .boxed {
  width: 100%;
}
.sketch {
  height: 84px;
  margin-top: 10px;
  background: rgb(var(--v-theme-ink), 0.55);
  mask: no-repeat center / contain;
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
@media (max-width: 860px) {
  .job {
    grid-template-columns: 1fr;
    gap: 10px;
  }
  .stands {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
    align-items: center;
  }
  .sketch {
    margin-top: 0;
  }
}
</style>
