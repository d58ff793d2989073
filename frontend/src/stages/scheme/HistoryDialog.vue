<script setup lang="ts">
import { ref, watch } from "vue";

import type { Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";

import { useScheme } from "./schemeStore";

const open = defineModel<boolean>({ required: true });
const schemes = useScheme();
const notices = useNotices();
const versions = ref<Schemas["RevisionOut"][]>([]);

watch(open, async (shown) => {
  if (!shown) return;
  try {
    versions.value = await schemes.history();
  } catch (error) {
    notices.failed(error);
  }
});

async function back(number: number) {
  if (await schemes.restore(number)) open.value = false;
}

function when(iso: string): string {
  return new Date(iso).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });
}
</script>

<template>
  <v-dialog v-model="open" scrollable max-width="640" aria-label="History">
    <v-card title="History" :subtitle="schemes.scheme?.name">
      <v-card-text>
        <ol>
          <li v-for="version in versions" :key="version.number" :class="{ head: version.is_head }">
            <div>
              <strong>{{ version.number }}</strong> {{ version.words }}
              <small>{{ when(version.created) }} {{ version.author }}</small>
            </div>
            <v-btn
              v-if="!version.is_head"
              size="small"
              :disabled="schemes.busy"
              :aria-label="`Go back to version ${version.number}`"
              @click="back(version.number)"
            >
              Go back to this
            </v-btn>
            <span v-else>as it stands</span>
          </li>
        </ol>
      </v-card-text>
      <v-card-actions><v-btn @click="open = false">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  padding: 8px 0;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.2);
}
small {
  display: block;
}
.head {
  font-weight: 700;
}
</style>
