<script setup lang="ts">
/** Taking a boat aboard: how far it is, what it takes on this device, and letting it go. */
import { computed, ref } from "vue";

import { away } from "@/api/connection";
import { useNotices } from "@/app/notices";
import { useSession } from "@/app/session";
import { dayAndHour } from "@/shared/formats";
import { megabytes } from "@/shared/units";

import { taken } from "./answers";
import { letGoOf, takeAboard, type Progress } from "./takeAboard";

const props = defineProps<{ jobId: string; variantId: string }>();
const session = useSession();
const notices = useNotices();
const progress = ref<Progress | null>(null);
const here = computed(() => taken.value.find((one) => one.job === props.jobId));
const size = computed(() => megabytes(here.value?.bytes ?? 0));
const when = computed(() => (here.value ? dayAndHour(here.value.at) : ""));

async function take() {
  const name = session.session?.username ?? "";
  progress.value = { done: 0, of: 1 };
  try {
    await takeAboard(name, props.jobId, props.variantId, (p) => (progress.value = p));
    notices.said("Aboard: all of it can be read without a server.");
  } catch (error) {
    notices.failed(error);
  } finally {
    progress.value = null;
  }
}

async function go() {
  if (here.value) await letGoOf(here.value);
}
</script>

<template>
  <section aria-label="On this device" class="card">
    <h2>On this device</h2>
    <template v-if="progress">
      <v-progress-linear
        :model-value="(100 * progress.done) / progress.of"
        height="14"
        aria-label="Taking aboard"
      />
      <p role="status">{{ progress.done }} of {{ progress.of }} taken</p>
    </template>
    <p v-else-if="here">
      <strong>✓ Aboard</strong> since {{ when }}, {{ size }}. All stages can be read without a
      server; what you enter is sent later.
    </p>
    <p v-else>Not aboard: without a server this boat cannot be read.</p>
    <div class="acts">
      <v-btn
        size="large"
        :variant="here ? 'tonal' : 'flat'"
        :color="here ? undefined : 'secondary'"
        :disabled="progress !== null || away"
        @click="take"
      >
        {{ here ? "Take it anew" : "Take aboard" }}
      </v-btn>
      <v-btn v-if="here && !progress" size="large" variant="text" @click="go">Let it go</v-btn>
    </div>
  </section>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 24px;
  margin-top: 10px;
}
.acts :deep(.v-btn) {
  min-height: 56px;
}
h2 {
  font-size: 1.15rem;
}
</style>
