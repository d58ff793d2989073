<script setup lang="ts">
/** A file, PDF or archive: asked for, made by a worker, and handed over when it is done. */
import { ref } from "vue";

import { useNotices } from "@/app/notices";

import { finished, type Print } from "./prints";

const props = defineProps<{ ask: () => Promise<Print> }>();
const notices = useNotices();
const making = ref(false);

function handOver(print: Print) {
  const link = document.createElement("a");
  link.href = `/api/prints/${print.id}/file`;
  link.download = `${print.name}.${print.ending}`;
  link.click();
}

async function make() {
  making.value = true;
  try {
    const print = await finished(await props.ask());
    if (print.status === "done") handOver(print);
    else notices.said(`No file: ${print.problem}`);
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
    <template v-if="making">Making the file</template>
    <slot v-else />
  </v-btn>
</template>
