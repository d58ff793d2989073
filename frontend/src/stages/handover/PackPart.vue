<script setup lang="ts">
/** What is handed over on paper, and the whole job as one file. */
import { reactive } from "vue";

import { api, unwrap } from "@/api/client";
import PaperButtons from "@/shared/PaperButtons.vue";
import PrintButton from "@/shared/PrintButton.vue";

import type { Language, SchoolId } from "./asked";

const props = defineProps<{ variantId: string; school: SchoolId; language: Language }>();
const names = reactive({ handed_by: "", received_by: "" });

function pack(paper: "A4" | "letter") {
  const params = { path: { variant_id: props.variantId } };
  const body = { paper, school: props.school, language: props.language, ...names };
  return unwrap(api.POST("/api/variants/{variant_id}/handover/pack", { params, body }));
}

function archive() {
  const params = { path: { variant_id: props.variantId } };
  return unwrap(api.POST("/api/variants/{variant_id}/archive", { params }));
}
</script>

<template>
  <section aria-label="Pack and archive" class="block">
    <h2>Handover pack</h2>
    <p>
      As-built drawing, owner's sheet, cables, fuses, settings, proving record, waivers with their
      reasons, service plan, open points, photographs: one PDF for the boat's papers.
    </p>
    <div class="asked">
      <label class="ask">
        Handed over by <input v-model.trim="names.handed_by" maxlength="80" />
      </label>
      <label class="ask">
        Received by <input v-model.trim="names.received_by" maxlength="80" />
      </label>
      <PaperButtons words="Pack" :papers="['A4', 'letter']" :ask="pack" />
    </div>
    <h2>Job archive</h2>
    <p>
      A zip file with the job file of all stages, photographs, records and these PDFs. Another
      workshop brings it in on its list of boats, and has everything.
    </p>
    <PrintButton :ask="archive">Archive, zip</PrintButton>
  </section>
</template>
