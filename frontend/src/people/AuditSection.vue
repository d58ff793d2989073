<script setup lang="ts">
/** Who did what, the newest first; searched as one types. */
import { onMounted, ref, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";

import { when } from "./roles";

const notices = useNotices();
const words = ref("");
const entries = ref<Schemas["AuditEntryOut"][]>([]);
const more = ref(false);
const SETTLES_MS = 300;
let settles: ReturnType<typeof setTimeout> | undefined;

async function load(before?: string) {
  const asked = words.value;
  try {
    const query = { words: asked, before };
    const page = await unwrap(api.GET("/api/audit", { params: { query } }));
    if (asked !== words.value) return; // something else is asked by now
    entries.value = before ? [...entries.value, ...page.entries] : page.entries;
    more.value = page.more;
  } catch (error) {
    notices.failed(error);
  }
}
onMounted(() => load());
watch(words, () => {
  clearTimeout(settles);
  settles = setTimeout(() => load(), SETTLES_MS);
});
</script>

<template>
  <section aria-label="Who did what">
    <h2>Who did what</h2>
    <div class="asked">
      <label class="ask">
        Search: person, boat, what was done
        <input v-model="words" type="search" />
      </label>
      <v-btn
        size="large"
        variant="text"
        :href="`/api/audit.csv?words=${encodeURIComponent(words)}`"
      >
        As CSV
      </v-btn>
    </div>
    <table class="plain">
      <thead>
        <tr>
          <th scope="col">When</th>
          <th scope="col" class="words">Who</th>
          <th scope="col" class="words">Did</th>
          <th scope="col" class="words">Boat</th>
          <th scope="col" class="words">What</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="entry in entries" :key="entry.id">
          <th scope="row">{{ when(entry.at) }}</th>
          <td class="words">{{ entry.name }}</td>
          <td class="words">{{ entry.did }}</td>
          <td class="words">{{ entry.job_name }}</td>
          <td class="words">{{ entry.subject }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="!entries.length">Nothing with these words.</p>
    <v-btn v-if="more" size="large" variant="outlined" @click="load(entries.at(-1)?.at)">
      Older ones
    </v-btn>
  </section>
</template>

<style scoped>
section {
  overflow-x: auto;
}
th.words {
  text-align: left;
}
.asked {
  margin-bottom: 8px;
}
</style>
