<script setup lang="ts">
import { computed, ref } from "vue";

import { useOpenJob } from "@/documents/openJob";
import { useSurvey } from "@/documents/surveyStore";
import { freeId } from "@/shared/ids";

const props = defineProps<{ feed: string | null }>();
const shown = defineModel<boolean>({ required: true });
const surveys = useSurvey();
const open = useOpenJob();
const search = ref("");
const wanted = ref<string[]>([]);
const listed = computed(() =>
  (open.choices?.loads ?? []).filter(({ item }) =>
    `${item.name} ${item.group}`.toLowerCase().includes(search.value.trim().toLowerCase()),
  ),
);

async function add() {
  const taken = new Set(surveys.survey?.items.map((item) => item.id));
  const profiles = new Set(surveys.survey?.profiles.map((profile) => profile.id));
  const rows = (open.choices?.loads ?? [])
    .filter(({ item }) => wanted.value.includes(item.id))
    .map(({ item }) => {
      const id = freeId(item.id, taken);
      taken.add(id);
      const uses = Object.fromEntries(
        Object.entries(item.uses ?? {}).filter(([profile]) => profiles.has(profile)),
      );
      return { ...item, id, uses, feed: props.feed };
    });
  if (await surveys.put("items", ...rows)) {
    wanted.value = [];
    shown.value = false;
  }
}
</script>

<template>
  <v-dialog v-model="shown" scrollable max-width="640" aria-label="Typical loads">
    <v-card title="Typical loads">
      <v-card-text>
        <p>Each is assumed until it is measured aboard.</p>
        <v-text-field v-model="search" label="Find" class="mt-2" hide-details autofocus />
        <ul>
          <li v-for="{ item, note } in listed" :key="item.id">
            <label>
              <input v-model="wanted" type="checkbox" :value="item.id" />
              <span>
                <strong>{{ item.name }}</strong> {{ item.draw }} {{ item.unit }}
                {{ item.current === "ac" ? "AC" : "" }} · duty {{ item.duty }}
                <small>{{ [item.group, note].filter(Boolean).join(" · ") }}</small>
              </span>
            </label>
          </li>
        </ul>
        <p class="source">{{ open.choices?.loads_source }}</p>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="shown = false">Close</v-btn>
        <v-btn color="secondary" variant="flat" :disabled="!wanted.length" @click="add">
          Add {{ wanted.length || "" }} {{ wanted.length === 1 ? "load" : "loads" }}
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin-top: 8px;
}
label {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 46px;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.18);
}
input {
  width: 22px;
  height: 22px;
  flex: none;
  accent-color: rgb(var(--v-theme-secondary));
}
small {
  display: block;
}
</style>
