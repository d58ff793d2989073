<script setup lang="ts">
/** Two variants side by side: drawings with their differences, numbers, findings gained and lost. */
import { computed, ref, shallowRef, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import PickField from "@/shared/fields/PickField.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import CompareDrawing from "./CompareDrawing.vue";
import CompareFindings from "./CompareFindings.vue";
import CompareNumbers from "./CompareNumbers.vue";

const props = defineProps<{ jobId: string; variantId: string }>();

const open = useOpenJob();
const notices = useNotices();
const other = ref<string | null>(null);
const found = shallowRef<Schemas["CompareOut"] | null>(null);
const schemes = shallowRef<Schemas["SchemeOut"][]>([]);
const others = computed(
  () =>
    open.job?.variants
      .filter((v) => v.id !== props.variantId)
      .map((v) => ({ value: v.id, title: v.name })) ?? [],
);

function opened() {
  const here = others.value.map((v) => v.value);
  if (!other.value || !here.includes(other.value)) other.value = here[0] ?? null;
}

async function compare() {
  const [first, second] = [props.variantId, other.value];
  found.value = null;
  if (!second) return;
  try {
    const [answer, ...read] = await Promise.all([
      unwrap(
        api.GET("/api/variants/{variant_id}/compare/{other_id}", {
          params: { path: { variant_id: first, other_id: second } },
        }),
      ),
      ...[first, second].map((id) =>
        unwrap(
          api.GET("/api/variants/{variant_id}/scheme", { params: { path: { variant_id: id } } }),
        ),
      ),
    ]);
    schemes.value = read;
    found.value = answer;
  } catch (error) {
    notices.failed(error);
  }
}

/** Differences as each drawing shows them: what goes in the first, what is new in the second. */
const marks = computed(() => {
  const rows = found.value?.comparison.differences ?? [];
  const of = (...hows: string[]) =>
    Object.fromEntries(rows.filter((d) => hows.includes(d.how)).map((d) => [d.id, d.how]));
  return [of("gone", "changed"), of("new", "changed")];
});

watch([other, () => props.variantId], compare);
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="scheme" @opened="opened">
    <div class="page">
      <header>
        <h1>Compare</h1>
        <v-btn :to="{ name: 'scheme', params: { jobId, variantId } }">Back to the scheme</v-btn>
        <PickField
          v-if="others.length"
          class="with"
          :label="`${open.job?.variants.find((v) => v.id === variantId)?.name} with`"
          :value="other"
          :picks="others"
          :save="(v) => !!(other = v as string)"
        />
      </header>
      <p v-if="open.job && !others.length">
        This job has one variant only. Make a proposal from it, by the plus beside its name or as a
        pattern.
      </p>
      <v-progress-linear v-else-if="!found" indeterminate aria-label="Comparing" />
      <template v-if="found">
        <p class="key">
          Both under way, engine at cruising speed. <strong>−</strong> goes · <strong>+</strong> is
          new · <strong>≠</strong> other figures
        </p>
        <div class="pair">
          <CompareDrawing
            v-for="(scheme, n) in schemes"
            :key="scheme.variant"
            :scheme="scheme"
            :marked="marks[n] ?? {}"
            :point="found.points[n] ?? null"
          />
        </div>
        <CompareNumbers
          :names="schemes.map((s) => s.name)"
          :sides="[found.comparison.first, found.comparison.second]"
          :costs="found.costs"
        />
        <CompareFindings :comparison="found.comparison" />
      </template>
    </div>
  </StageFrame>
</template>

<style scoped>
.page {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 8px 14px 20px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
}
h1 {
  font-size: 1.5rem;
}
.with {
  width: 240px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.key {
  margin: 4px 0;
}
@media (max-width: 959px) {
  .pair {
    grid-template-columns: 1fr;
  }
}
</style>
