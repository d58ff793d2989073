<script setup lang="ts">
import { computed, ref } from "vue";

import type { Key } from "@/app/keys";
import PaperButtons from "@/shared/PaperButtons.vue";
import FindingCard from "@/stages/frame/FindingCard.vue";
import StageBody from "@/stages/frame/StageBody.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import BoardsSection from "./BoardsSection.vue";
import CutsSection from "./CutsSection.vue";
import LabelsSection from "./LabelsSection.vue";
import PartsSection from "./PartsSection.vue";
import StepsSection from "./StepsSection.vue";
import { useBuild } from "./useBuild";
import WorkSection from "./WorkSection.vue";

defineProps<{ jobId: string; variantId: string }>();

const stage = useBuild();
const { build } = stage;
const part = ref("steps");
const findings = ref(false);
const open = computed(() => build.value?.findings.filter((f) => f.severity !== "note").length);
const parts = computed(() => PARTS.map((p) => (p.id === "open" ? { ...p, count: open.value } : p)));
const PARTS = [
  { id: "work", name: "Work" },
  { id: "parts", name: "Parts" },
  { id: "cuts", name: "Cuts" },
  { id: "labels", name: "Labels" },
  { id: "boards", name: "Boards" },
  { id: "steps", name: "Steps" },
  { id: "open", name: "Open" },
];
const keys: Key[] = [
  { key: "F", words: "Findings", run: () => (findings.value = !findings.value) },
];
const minutes = (m: number) =>
  m < 90 ? `${Math.round(m)} min` : `${Math.floor(m / 60)} h ${Math.round(m % 60)} min`;
const lost = computed(() => build.value?.state.lost ?? []);
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="build" :keys="keys">
    <StageBody v-model:part="part" v-model:findings="findings" title="Build" :parts="parts">
      <template #tools>
        <PaperButtons
          words="Pack"
          :papers="['A4', 'letter']"
          :ask="(paper) => stage.pack({ paper })"
        />
      </template>
      <template #top>
        <div v-if="build" class="sum">
          <p>
            <strong>{{ build.state.steps_done }} of {{ build.book.order.steps.length }}</strong>
            steps done, against {{ build.against ?? "a new boat" }}
          </p>
          <p>
            <strong>{{ minutes(build.book.order.minutes) }}</strong> of work<template
              v-if="build.book.costs.work !== null"
            >
              , {{ build.currency }} {{ build.book.costs.work.toFixed(0) }}
            </template>
          </p>
          <p>
            <strong>{{ minutes(build.book.order.off_minutes) }}</strong> without power
          </p>
        </div>
        <div v-if="lost.length" class="lost">
          <strong>◆ {{ lost.length }} entries are about what the design no longer has.</strong>
          They are kept:
          <span v-for="entry in lost.slice(0, 6)" :key="entry.id">
            {{ entry.target }} ({{ entry.kind }}, {{ entry.author ?? "demo" }});
          </span>
        </div>
      </template>
      <v-progress-linear v-if="!build" indeterminate aria-label="Working out the build" />
      <WorkSection
        v-else-if="part === 'work'"
        :build="build"
        :job-id="jobId"
        :variant-id="variantId"
      />
      <PartsSection
        v-else-if="part === 'parts'"
        :build="build"
        :enter="stage.enter"
        :price="stage.price"
        :busy="stage.sending.value"
        :variant-id="variantId"
      />
      <CutsSection
        v-else-if="part === 'cuts'"
        :build="build"
        :enter="stage.enter"
        :cut="stage.cut"
      />
      <LabelsSection
        v-else-if="part === 'labels'"
        :build="build"
        :pack="stage.pack"
        :variant-id="variantId"
      />
      <BoardsSection v-else-if="part === 'boards'" :build="build" />
      <section v-else-if="part === 'open'" aria-label="Open" class="block">
        <p>
          Open or wrong before hands are laid on the boat. Of every figure: {{ build.confirm }}.
        </p>
        <FindingCard v-for="one in build.findings" :key="one.key" :finding="one" plain />
        <p v-if="!build.findings.length" class="text-success">✓ Nothing is open.</p>
      </section>
      <StepsSection v-else :build="build" :stage="stage" />
    </StageBody>
  </StageFrame>
</template>

<style scoped>
.sum {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 26px;
  padding: 0 16px 6px;
}
.sum strong {
  font-size: 1.15rem;
}
.lost {
  margin: 0 16px 6px;
  border-left: 5px solid rgb(var(--v-theme-warning));
  padding-left: 10px;
}
</style>
