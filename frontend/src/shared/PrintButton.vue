<script setup lang="ts">
/** A PDF: asked for, made by a worker, and handed over when it is done. */
import { promiseTimeout } from "@vueuse/core";
import { ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";

type Print = Schemas["PrintOut"];
const LOOK_EVERY_MS = 700;

const props = defineProps<{ ask: () => Promise<Print> }>();
const notices = useNotices();
const making = ref(false);

async function finished(print: Print): Promise<Print> {
  let now = print;
  while (now.status === "waiting" || now.status === "running") {
    await promiseTimeout(LOOK_EVERY_MS);
    const params = { path: { print_id: print.id } };
    now = await unwrap(api.GET("/api/prints/{print_id}", { params }));
  }
  return now;
}

function handOver(print: Print) {
  const link = document.createElement("a");
  link.href = `/api/prints/${print.id}/file`;
  link.download = `${print.name}.pdf`;
  link.click();
}

async function make() {
  making.value = true;
  try {
    const print = await finished(await props.ask());
    if (print.status === "done") handOver(print);
    else notices.said(`No PDF: ${print.problem}`);
  } catch (error) {
    notices.failed(error);
  } finally {
    making.value = false;
  }
}
</script>

<template>
  <v-btn size="small" :disabled="making" :aria-busy="making" @click="make">
    <v-progress-circular v-if="making" indeterminate size="16" width="2" class="mr-2" />
    <template v-if="making">Computing the PDF</template>
    <slot v-else />
  </v-btn>
</template>
