<script setup lang="ts">
/** Today aboard: where the work stands, what is live, what comes next; one large way on. */
import { computed } from "vue";
import { useRouter } from "vue-router";

import AboardCard from "@/aboard/AboardCard.vue";
import { useUnsaved } from "@/documents/unsaved";
import { liveBefore, useBuild } from "@/stages/build/useBuild";
import { useProve } from "@/stages/prove/useProve";
import StageFrame from "@/stages/frame/StageFrame.vue";
import type { BuiltStage } from "@/stages/stages";
import { useSurveyed } from "@/stages/survey/useSurveyed";

const props = defineProps<{ jobId: string; variantId: string }>();
const router = useRouter();
const unsaved = useUnsaved();
const { build } = useBuild();
const { prove } = useProve();
const { report: surveyed } = useSurveyed();

const steps = computed(() => build.value?.book.order.steps ?? []);
const at = computed(() => steps.value.findIndex((s) => s.key === build.value?.state.next_step));
const step = computed(() => steps.value[at.value]);
const live = computed(() => {
  const where = at.value < 0 ? steps.value.length : at.value;
  return build.value ? liveBefore(build.value, where) : [];
});
const test = computed(() => prove.value?.tests.find((t) => t.key === prove.value?.next));
const answered = computed(() => (prove.value?.tests.length ?? 0) - (prove.value?.counts.open ?? 0));
const open = computed(() => surveyed.value?.to_find_out ?? []);

/** Steps first, then tests, then what is to be found out. */
const next = computed<{ route: BuiltStage; words: string } | null>(() => {
  if (!build.value || !prove.value || !surveyed.value) return null;
  if (step.value) return { route: "build", words: `Continue: step ${at.value + 1}` };
  if (test.value) return { route: "prove", words: "Continue: next test" };
  if (open.value.length) return { route: "survey", words: "Continue: find out" };
  return { route: "handover", words: "Hand over" };
});

function go(route: BuiltStage) {
  const { jobId, variantId } = props;
  void router.push({ name: route, params: { jobId, variantId } });
}
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="today">
    <div class="today">
      <h1>Today aboard</h1>
      <v-progress-linear v-if="!build || !prove" indeterminate aria-label="Reading" />
      <v-btn
        v-if="next"
        class="on"
        block
        size="x-large"
        color="secondary"
        variant="flat"
        @click="go(next.route)"
      >
        {{ next.words }}
      </v-btn>
      <section v-if="build" aria-label="Build" class="card">
        <h2>Build</h2>
        <p class="big">
          <template v-if="step">Step {{ at + 1 }} of {{ steps.length }}</template>
          <template v-else>✓ All {{ steps.length }} steps done</template>
        </p>
        <p v-if="step">{{ step.title }}, about {{ step.minutes.toFixed(0) }} min</p>
        <p class="big" :class="live.length ? 'text-error' : 'text-success'">
          {{ live.length ? `▲ ${live.length} posts live now` : "✓ Nothing is live now" }}
        </p>
        <p v-if="live.length">Measure before you touch. Goggles; no rings.</p>
      </section>
      <section v-if="prove" aria-label="Prove" class="card">
        <h2>Prove</h2>
        <p class="big">{{ answered }} of {{ prove.tests.length }} tests answered</p>
        <p v-if="test">Next: {{ test.title }}</p>
        <p v-if="prove.not_so" class="text-error">▲ {{ prove.not_so }} not as they should be</p>
        <v-btn size="large" @click="go('prove')">To the tests</v-btn>
      </section>
      <section aria-label="To find out" class="card">
        <h2>To find out</h2>
        <p class="big">{{ open.length ? `◆ ${open.length} open` : "✓ Nothing" }}</p>
        <ul v-if="open.length">
          <li v-for="one in open.slice(0, 3)" :key="`${one.subject} ${one.question}`">
            {{ one.subject }}: {{ one.question }}
          </li>
        </ul>
        <v-btn v-if="open.length" size="large" @click="go('survey')">To the survey</v-btn>
      </section>
      <section aria-label="To be sent" class="card">
        <h2>To be sent</h2>
        <p class="big">{{ unsaved.count ? `◆ ${unsaved.count} wait here` : "✓ Nothing waits" }}</p>
        <p v-if="unsaved.refused.length" class="text-error">
          ■ {{ unsaved.refused.length }} refused: see below
        </p>
      </section>
      <AboardCard :job-id="jobId" :variant-id="variantId" />
    </div>
  </StageFrame>
</template>

<style scoped>
.today {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 8px 14px 120px;
}
.on {
  min-height: 72px;
  margin: 10px 0;
  font-size: 1.4rem;
}
.big {
  font-size: 1.5rem;
  font-weight: 700;
}
.card :deep(.v-btn) {
  min-height: 56px;
  margin-top: 8px;
}
h2 {
  font-size: 1.05rem;
}
</style>
