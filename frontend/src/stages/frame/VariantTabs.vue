<script setup lang="ts">
import { mdiPlus } from "@mdi/js";
import { ref } from "vue";
import { useRouter } from "vue-router";

import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import type { Screen } from "@/stages/stages";

defineProps<{ stage: Screen; variant: string }>();

const open = useOpenJob();
const notices = useNotices();
const router = useRouter();
const asking = ref(false);
const name = ref("");

function ask() {
  const taken = open.job?.variants.map((v) => v.name) ?? [];
  const letters = [..."ABCDEFGHIJKLMNOPQRST"];
  const free = letters.find((letter) => !taken.includes(`Proposal ${letter}`));
  name.value = `Proposal ${free ?? "Z"}`;
  asking.value = true;
}

async function copy(stage: Screen) {
  try {
    const variantId = await open.copyVariant(name.value);
    asking.value = false;
    await router.push({ name: stage, params: { jobId: open.ids.job, variantId } });
  } catch (error) {
    notices.failed(error);
  }
}
</script>

<template>
  <nav class="variants" aria-label="Variants">
    <router-link
      v-for="v in open.job?.variants"
      :key="v.id"
      :to="{ name: stage, params: { jobId: open.job?.id, variantId: v.id } }"
      :class="{ here: v.id === variant }"
      :aria-current="v.id === variant ? 'page' : undefined"
      :title="v.name"
    >
      {{ v.name }}
    </router-link>
    <v-btn
      :icon="mdiPlus"
      size="small"
      variant="text"
      aria-label="New proposal"
      title="New proposal, copied from this variant"
      @click="ask"
    />
    <v-dialog v-model="asking" max-width="420" aria-label="New proposal">
      <v-card title="New proposal">
        <v-card-text>
          <p class="mb-3">It starts as a copy of the variant that is shown.</p>
          <v-text-field v-model="name" label="Name" maxlength="60" @keydown.enter="copy(stage)" />
        </v-card-text>
        <v-card-actions>
          <v-btn @click="asking = false">Leave it</v-btn>
          <v-btn color="secondary" variant="flat" :disabled="!name.trim()" @click="copy(stage)">
            Make the proposal
          </v-btn>
        </v-card-actions>
      </v-card>
    </v-dialog>
  </nav>
</template>

<style scoped>
.variants {
  display: flex;
  gap: 6px;
  align-items: center;
  overflow-x: auto;
}
a {
  color: inherit;
  text-decoration: none;
  border: 1px solid currentColor;
  border-radius: 99px;
  padding: 5px 12px;
  white-space: nowrap;
  max-width: 210px;
  flex: none;
  overflow: hidden;
  text-overflow: ellipsis;
}
.here {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-on-primary));
  font-weight: 700;
}
:global(.v-app-bar .variants .here) {
  background: rgb(var(--v-theme-on-bar));
  color: rgb(var(--v-theme-bar));
}
</style>
