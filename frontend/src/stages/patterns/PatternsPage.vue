<script setup lang="ts">
/** Complete schemes for this boat, ranked with their reasons; each can be looked at before it is used. */
import { computed, ref, shallowRef, watch } from "vue";
import { useRouter } from "vue-router";
import { useDisplay } from "vuetify";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import ChoiceButtons from "@/shared/fields/ChoiceButtons.vue";
import StandingLine from "@/shared/StandingLine.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import PatternPreview from "./PatternPreview.vue";
import PatternReasons from "./PatternReasons.vue";

const props = defineProps<{ jobId: string; variantId: string }>();

const schemes = useScheme();
const open = useOpenJob();
const notices = useNotices();
const router = useRouter();
const { mdAndUp } = useDisplay();

const WISHES = [
  {
    name: "crew" as const,
    label: "Who handles it",
    choices: [
      { id: "anyone", words: "Anyone" },
      { id: "attentive", words: "Never forgets" },
    ],
  },
  {
    name: "budget" as const,
    label: "Budget",
    choices: [
      { id: "low", words: "Low" },
      { id: "middle", words: "Middle" },
      { id: "free", words: "Free" },
    ],
  },
  {
    name: "first" as const,
    label: "Charged first",
    choices: [
      { id: "none", words: "No matter" },
      { id: "house", words: "House" },
      { id: "engine", words: "Engine" },
    ],
  },
];
const wishes = ref<Record<"crew" | "budget" | "first", string>>({
  crew: "anyone",
  budget: "middle",
  first: "none",
});
const found = shallowRef<Schemas["AdviceOut"] | null>(null);
const preview = shallowRef<Schemas["PreviewOut"] | null>(null);
const shown = ref<string | null>(null);
const working = ref(false);
const proposing = ref(false);
const page = ref<HTMLElement | null>(null);
const advice = computed(() => found.value?.advice.find((a) => a.pattern === shown.value) ?? null);

async function ask() {
  working.value = true;
  const { crew, budget, first } = wishes.value as {
    crew: "anyone" | "attentive";
    budget: "low" | "middle" | "free";
    first: "engine" | "house" | "none";
  };
  const query = { crew, budget, ...(first === "none" ? {} : { first }) };
  const params = { path: { variant_id: props.variantId }, query };
  try {
    found.value = await unwrap(api.GET("/api/variants/{variant_id}/advice", { params }));
    if (!shown.value && mdAndUp.value) await show(found.value.advice[0]?.pattern ?? null);
  } catch (error) {
    notices.failed(error);
  } finally {
    working.value = false;
  }
}

async function show(pattern: string | null) {
  shown.value = pattern;
  preview.value = null;
  // On a phone the pattern picked stands above the list.
  if (!mdAndUp.value) page.value?.scrollTo({ top: 0 });
  if (!pattern) return;
  const params = { path: { variant_id: props.variantId, pattern } };
  try {
    const read = await unwrap(api.GET("/api/variants/{variant_id}/patterns/{pattern}", { params }));
    if (shown.value === pattern) preview.value = read;
  } catch (error) {
    notices.failed(error);
  }
}

function toScheme(variantId: string) {
  return router.push({ name: "scheme", params: { jobId: props.jobId, variantId } });
}

async function rewire() {
  if (!shown.value) return;
  if (await schemes.applyPattern(shown.value)) {
    notices.said(schemes.scheme?.can_undo ?? "Rewired");
    await toScheme(props.variantId);
  }
}

async function propose() {
  const name = advice.value?.name;
  if (!shown.value || !name) return;
  const taken = new Set(open.job?.variants.map((v) => v.name));
  let free = name.slice(0, 56);
  for (let n = 2; taken.has(free); n++) free = `${name.slice(0, 54)} ${n}`;
  proposing.value = true;
  try {
    await toScheme(await open.copyVariant(free, shown.value));
  } catch (error) {
    notices.failed(error);
  } finally {
    proposing.value = false;
  }
}

watch([wishes, () => props.variantId], ask);
</script>

<template>
  <StageFrame :job-id="jobId" :variant-id="variantId" stage="scheme" @opened="ask">
    <div ref="page" class="page">
      <header>
        <h1>Patterns</h1>
        <v-btn :to="{ name: 'scheme', params: { jobId, variantId } }">Back to the scheme</v-btn>
        <div class="wishes">
          <div v-for="wish in WISHES" :key="wish.label">
            <h3>{{ wish.label }}</h3>
            <ChoiceButtons
              :label="wish.label"
              :choices="wish.choices"
              :value="wishes[wish.name]"
              @choose="wishes = { ...wishes, [wish.name]: $event }"
            />
          </div>
        </div>
      </header>
      <v-progress-linear v-if="working" indeterminate aria-label="Computing every pattern" />
      <p v-if="working && !found" class="wait">
        Every pattern is being built and computed on this boat.
      </p>
      <div v-if="found" class="columns">
        <ol class="ranked" aria-label="Patterns, the best first">
          <li v-for="(a, n) in found.advice" :key="a.pattern">
            <button
              type="button"
              class="pattern"
              :aria-pressed="shown === a.pattern"
              @click="show(a.pattern)"
            >
              <span class="rank">{{ n + 1 }}</span>
              <strong>{{ a.name }}</strong>
              <span class="words">{{ a.words }}</span>
              <span v-for="r in a.reasons.slice(0, 2)" :key="r.words" class="reason">
                {{ r.marks > 0 ? "✓" : "▾" }} {{ r.words }}
              </span>
            </button>
          </li>
          <li v-for="r in found.refused" :key="r.pattern" class="refused">
            <strong>{{ r.name }}</strong> does not fit: {{ r.why.join("; ") }}
          </li>
        </ol>
        <section v-if="advice" class="chosen" aria-label="The pattern picked">
          <h2>{{ advice.name }}</h2>
          <StandingLine v-if="preview" :standing="preview.standing" />
          <p v-if="preview?.by_nature.length" class="nature">
            What no size heals here: {{ preview.by_nature.join("; ") }}.
          </p>
          <p>{{ advice.words }} School: {{ advice.school }}.</p>
          <div class="actions">
            <v-btn color="secondary" variant="flat" :loading="proposing" @click="propose">
              Make it a new proposal
            </v-btn>
            <v-btn :loading="schemes.busy" :disabled="proposing" @click="rewire">
              Rewire {{ schemes.scheme?.name }} so
            </v-btn>
          </div>
          <PatternReasons :advice="advice" />
          <PatternPreview v-if="preview" :preview="preview" />
          <div v-else role="status">
            <v-progress-linear indeterminate aria-label="Wiring, sizing and checking the pattern" />
            <p class="wait">Being wired on this boat, every size chosen, every rule checked.</p>
          </div>
          <p class="confirm">
            Sizes, devices and lugs are chosen from the stock in the same step, and what exists is
            kept where it is enough; {{ found.confirm }}. The order is this program's judgement, the
            numbers are computed on this boat.
          </p>
        </section>
      </div>
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
  align-items: end;
  gap: 6px 16px;
}
h1 {
  font-size: 1.5rem;
}
.wishes {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  margin-left: auto;
}
.wishes h3 {
  font-size: 0.86rem;
}
.wishes :deep(.choices) {
  margin: 2px 0;
  gap: 4px;
}
.wait {
  padding: 20px 4px;
  font-size: 1.1rem;
}
.columns {
  display: grid;
  grid-template-columns: minmax(300px, 380px) 1fr;
  gap: 18px;
  margin-top: 10px;
}
.ranked {
  list-style: none;
  padding: 0;
}
.pattern {
  display: grid;
  grid-template-columns: 34px 1fr;
  width: 100%;
  text-align: left;
  padding: 9px 12px 9px 4px;
  margin-bottom: 6px;
  border: 1.5px solid rgb(var(--v-theme-ink), 0.35);
  border-radius: 12px;
  background: rgb(var(--v-theme-surface));
  color: rgb(var(--v-theme-on-surface));
}
.pattern > span:not(.rank) {
  grid-column: 2;
}
.pattern[aria-pressed="true"] {
  border: 3px solid rgb(var(--v-theme-secondary));
  padding: 7.5px 10.5px 7.5px 2.5px;
}
.rank {
  font-size: 1.3rem;
  font-weight: 800;
  text-align: center;
}
.words,
.reason {
  font-size: 0.88rem;
}
.reason {
  opacity: 0.85;
}
.refused {
  font-size: 0.85rem;
  padding: 4px 10px;
  opacity: 0.85;
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 8px 0;
}
.nature {
  font-weight: 600;
}
.confirm {
  font-size: 0.88rem;
}
@media (max-width: 959px) {
  .columns {
    grid-template-columns: 1fr;
  }
  .wishes {
    margin-left: 0;
  }
  .chosen {
    order: -1;
  }
}
</style>
