<script setup lang="ts">
/** The workshop's name, and how it writes days, hours and lengths. */
import { onMounted, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useSession } from "@/app/session";
import { formats } from "@/shared/formats";

type Format = keyof Schemas["FormatsOut"];
const FORMATS: { name: Format; words: string }[] = [
  { name: "dates", words: "Days" },
  { name: "clock", words: "Hours" },
  { name: "units", words: "Lengths" },
  { name: "paper", words: "Paper" },
];
const store = useSession();
const notices = useNotices();
const kept = ref<Schemas["WorkshopOut"] | null>(null);

onMounted(async () => {
  try {
    kept.value = await unwrap(api.GET("/api/workshop"));
  } catch (error) {
    notices.failed(error);
  }
});

async function change(fields: Partial<Schemas["WorkshopIn"]>) {
  if (!kept.value) return;
  const { name, dates, clock, units, paper } = kept.value;
  const body = { name, dates, clock, units, paper, ...fields };
  try {
    const now = await unwrap(api.PUT("/api/workshop", { body }));
    kept.value = now;
    formats.value = now;
    if (store.session) {
      const told = { dates: now.dates, clock: now.clock, units: now.units, paper: now.paper };
      store.session = { ...store.session, workshop: now.name, formats: told };
    }
  } catch (error) {
    notices.failed(error);
  }
}
const typed = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value;
</script>

<template>
  <section v-if="kept" aria-label="The workshop">
    <h2>The workshop</h2>
    <div class="asked">
      <label class="ask">
        Name
        <input :value="kept.name" maxlength="60" @change="change({ name: typed($event) })" />
      </label>
      <label v-for="one in FORMATS" :key="one.name" class="ask">
        {{ one.words }}
        <select :value="kept[one.name]" @change="change({ [one.name]: typed($event) })">
          <option v-for="c in kept.choices[one.name]" :key="c.value" :value="c.value">
            {{ c.title }}
          </option>
        </select>
      </label>
    </div>
    <p class="source">
      Lengths are entered in metres. The currency stands with the stock, among prices.
    </p>
  </section>
</template>
