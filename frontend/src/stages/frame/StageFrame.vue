<script setup lang="ts">
/** What every stage stands in: the bar with boat, variants and undo; the rail; the dialogs. */
import {
  mdiArrowLeft,
  mdiEye,
  mdiHistory,
  mdiKeyboardOutline,
  mdiMagnify,
  mdiMenuDown,
  mdiRedo,
  mdiUndo,
} from "@mdi/js";
import { computed, onBeforeUnmount, onMounted, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { useDisplay } from "vuetify";

import { isUnknown, ProblemError, type Problem } from "@/api/client";
import type { Key } from "@/app/keys";
import { useKeys } from "@/app/keys";
import KeysDialog from "@/app/KeysDialog.vue";
import LightSwitch from "@/app/LightSwitch.vue";
import { preloadPages } from "@/app/router";
import { useSession } from "@/app/session";
import { useOpenJob } from "@/documents/openJob";
import { length } from "@/shared/units";
import { STAGES, type Screen } from "@/stages/stages";

import ConflictDialog from "./ConflictDialog.vue";
import HistoryDialog from "./HistoryDialog.vue";
import StageRail from "./StageRail.vue";
import TroublePanel from "./TroublePanel.vue";
import VariantTabs from "./VariantTabs.vue";

const props = defineProps<{
  jobId: string;
  variantId: string;
  stage: Screen;
  keys?: Key[];
  find?: () => void;
}>();
const emit = defineEmits<{ opened: [] }>();

const open = useOpenJob();
const session = useSession();
const router = useRouter();
const { mdAndUp } = useDisplay();
const keysOpen = ref(false);
const history = ref(false);
const here = computed(() => STAGES.find((stage) => stage.route === props.stage));

const trouble = ref<Problem | null>(null);
const AGAIN_MS = 4000;
const PRELOAD_AFTER_MS = 1500;
let again: ReturnType<typeof setTimeout> | undefined;

async function load() {
  clearTimeout(again);
  try {
    await open.open(props.jobId, props.variantId);
    trouble.value = null;
    emit("opened");
    setTimeout(preloadPages, PRELOAD_AFTER_MS);
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    // What is there already stays: it is worked on, and its entries wait.
    if (isUnknown(error)) again = setTimeout(load, AGAIN_MS);
    trouble.value = isUnknown(error) && open.isHere(props) ? null : error.problem;
  }
}
onBeforeUnmount(() => clearTimeout(again));

function goTo(route: Screen) {
  const { jobId, variantId } = props;
  void router.push({ name: route, params: { jobId, variantId } });
}

const keys: Key[] = [
  ...(props.keys ?? []),
  { key: "T", shift: true, words: "Today", run: () => goTo("today") },
  { key: "U", words: "Undo", run: () => void open.undo() },
  { key: "U", shift: true, words: "Redo", run: () => void open.redo() },
  ...STAGES.map(({ digit, name, route }) => ({ key: digit, words: name, run: () => goTo(route) })),
  {
    key: "?",
    words: "These keys",
    open: () => keysOpen.value,
    run: () => (keysOpen.value = !keysOpen.value),
  },
];
useKeys(keys);

onMounted(load);
watch(() => props.variantId, load);
</script>

<template>
  <v-app-bar color="bar" density="compact" flat>
    <v-btn :icon="mdiArrowLeft" size="small" aria-label="All jobs" :to="{ name: 'jobs' }" />
    <span class="boat">
      <strong>{{ open.job?.name }}</strong>
      <span v-if="mdAndUp && open.job" class="kind">
        {{ open.job.boat.kind }} {{ length(open.job.boat.length_m) }}
      </span>
    </span>
    <VariantTabs v-if="mdAndUp" class="ml-4" :stage="stage" :variant="variantId" />
    <v-btn v-else class="stage-menu" size="small" variant="outlined" :append-icon="mdiMenuDown">
      {{ here?.name ?? "Today" }}
      <v-menu activator="parent">
        <v-list aria-label="Stages">
          <v-list-item :active="stage === 'today'" @click="goTo('today')">Today</v-list-item>
          <v-list-item
            v-for="item in STAGES"
            :key="item.name"
            :active="item === here"
            @click="goTo(item.route)"
          >
            {{ item.digit }} {{ item.name }}
          </v-list-item>
          <v-list-item><LightSwitch /></v-list-item>
        </v-list>
      </v-menu>
    </v-btn>
    <template v-if="!session.mayWrite">
      <span v-if="mdAndUp" class="reader">Reader</span>
      <v-icon v-else :icon="mdiEye" aria-label="Reader: nothing is changed here" role="img" />
    </template>
    <v-spacer />
    <v-btn
      :icon="mdiUndo"
      size="small"
      aria-label="Undo"
      :title="open.canUndo ? `Undo: ${open.canUndo}` : 'Nothing to undo'"
      :disabled="!open.canUndo || open.busy"
      @click="open.undo()"
    />
    <v-btn
      :icon="mdiRedo"
      size="small"
      aria-label="Redo"
      :title="open.canRedo ? `Redo: ${open.canRedo}` : 'Nothing to redo'"
      :disabled="!open.canRedo || open.busy"
      @click="open.redo()"
    />
    <v-btn :icon="mdiHistory" size="small" aria-label="History" @click="history = true" />
    <template v-if="mdAndUp">
      <v-btn v-if="find" :icon="mdiMagnify" size="small" aria-label="Find" @click="find()" />
      <LightSwitch />
      <v-btn :icon="mdiKeyboardOutline" size="small" aria-label="Keys" @click="keysOpen = true" />
    </template>
  </v-app-bar>
  <v-main class="main">
    <div class="stage">
      <StageRail v-if="mdAndUp" :current="stage" :job-id="jobId" :variant-id="variantId" />
      <div class="work">
        <VariantTabs v-if="!mdAndUp" class="px-3 pt-2" :stage="stage" :variant="variantId" />
        <TroublePanel v-if="trouble" :problem="trouble" @again="load" />
        <slot v-else />
      </div>
    </div>
  </v-main>
  <HistoryDialog v-model="history" />
  <KeysDialog v-model="keysOpen" :keys="keys" />
  <ConflictDialog />
</template>

<style scoped>
.boat {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.kind {
  margin-left: 10px;
  opacity: 0.9;
}
.reader {
  flex: none;
  margin-left: 10px;
  padding: 0 10px;
  border: 1px solid currentColor;
  border-radius: 99px;
}
.stage-menu {
  flex: none;
  margin-left: 8px;
}
.main {
  height: 100dvh;
}
@media (max-width: 959px) {
  .main {
    max-height: calc(100dvh - var(--unsaved-height, 0px));
  }
}
.stage {
  display: flex;
  height: 100%;
}
.work {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
</style>
