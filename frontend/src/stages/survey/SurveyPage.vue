<script setup lang="ts">
import { mdiClipboardTextOutline } from "@mdi/js";
import { computed, ref } from "vue";
import { useDisplay } from "vuetify";

import type { Key } from "@/app/keys";
import { useSurvey } from "@/documents/surveyStore";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import AcSection from "./AcSection.vue";
import BanksFound from "./BanksFound.vue";
import BoatSection from "./BoatSection.vue";
import CablesFound from "./CablesFound.vue";
import FindOutList from "./FindOutList.vue";
import GearFound from "./GearFound.vue";
import OwnerSection from "./OwnerSection.vue";
import PhotosSection from "./PhotosSection.vue";
import PlacesSection from "./PlacesSection.vue";
import { useSurveyed } from "./useSurveyed";

defineProps<{ jobId: string; variantId: string }>();

const surveys = useSurvey();
const { report } = useSurveyed();
const { mdAndUp } = useDisplay();
const part = ref("owner");
const findings = ref(false);
const findingOut = ref(mdAndUp.value);
const rows = computed(() => report.value?.to_find_out ?? []);
const SECTIONS: Record<string, string[]> = {
  owner: ["Way of use"],
  boat: ["Boat"],
  places: ["Runs"],
  banks: ["Banks"],
  gear: ["Sources", "Switches"],
  cables: ["Cables"],
};
const parts = computed(() =>
  [
    ["owner", "Owner"],
    ["boat", "Boat"],
    ["places", "Places and runs"],
    ["banks", "Banks"],
    ["gear", "Gear"],
    ["cables", "Cables"],
    ["ac", "AC and bonding"],
    ["photos", "Photos"],
  ].map(([id = "", name = ""]) => ({
    id,
    name,
    count: rows.value.filter((row) => SECTIONS[id]?.includes(row.section)).length,
  })),
);
const side = computed(() =>
  findingOut.value && !findings.value
    ? `To find out: ${report.value ? rows.value.length : "…"}`
    : null,
);

const keys: Key[] = [
  { key: "F", words: "Findings", run: () => (findings.value = !findings.value) },
  { key: "O", words: "To find out", run: showFindOut },
];

function showFindOut() {
  findingOut.value = findings.value || !findingOut.value;
  findings.value = false;
}
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="survey" :keys="keys">
    <StageBody
      v-model:part="part"
      v-model:findings="findings"
      title="Survey"
      many-parts
      :parts="parts"
      :side="side"
      @close-side="findingOut = false"
    >
      <template #tools>
        <v-btn
          size="small"
          :aria-pressed="side !== null"
          :variant="side ? 'flat' : 'tonal'"
          @click="showFindOut"
        >
          {{ report ? rows.length : "…" }} to find out
        </v-btn>
        <v-btn
          size="small"
          :prepend-icon="mdiClipboardTextOutline"
          :to="{ name: 'walk-round', params: { jobId, variantId } }"
        >
          Walk-round sheet
        </v-btn>
      </template>
      <template #side><FindOutList :rows="rows" /></template>
      <v-progress-linear v-if="!surveys.survey" indeterminate aria-label="Loading the survey" />
      <OwnerSection v-else-if="part === 'owner'" />
      <BoatSection v-else-if="part === 'boat'" />
      <PlacesSection v-else-if="part === 'places'" />
      <BanksFound v-else-if="part === 'banks'" :surveyed="report" />
      <GearFound v-else-if="part === 'gear'" />
      <CablesFound v-else-if="part === 'cables'" />
      <AcSection v-else-if="part === 'ac'" :items="report?.ac_checklist ?? []" />
      <PhotosSection v-else />
    </StageBody>
  </StageFrame>
</template>
