<script setup lang="ts">
import {
  mdiArrowLeft,
  mdiHistory,
  mdiKeyboardOutline,
  mdiListBoxOutline,
  mdiMagnify,
  mdiRedo,
  mdiUndo,
} from "@mdi/js";
import { computed, onMounted, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { useDisplay } from "vuetify";

import { api, told, type Schemas } from "@/api/client";
import type { Key } from "@/app/keys";
import { useKeys } from "@/app/keys";
import KeysDialog from "@/app/KeysDialog.vue";
import LightSwitch from "@/app/LightSwitch.vue";
import { useNotices } from "@/app/notices";
import StageRail from "@/app/StageRail.vue";
import SchemeDrawing from "@/drawing/SchemeDrawing.vue";
import { length } from "@/shared/units";

import BenchTables from "./BenchTables.vue";
import { useBench } from "./benchStore";
import ConditionsTray from "./ConditionsTray.vue";
import ConflictDialog from "./ConflictDialog.vue";
import FindDialog from "./FindDialog.vue";
import FindingsList from "./FindingsList.vue";
import HistoryDialog from "./HistoryDialog.vue";
import MomentSums from "./MomentSums.vue";
import PickSheet from "./PickSheet.vue";
import { usePicking } from "./picking";
import PositionCard from "./PositionCard.vue";
import { useScheme } from "./schemeStore";
import VariantTabs from "./VariantTabs.vue";

const props = defineProps<{ jobId: string; variantId: string }>();

const schemes = useScheme();
const bench = useBench();
const picking = usePicking();
const notices = useNotices();
const router = useRouter();
const { mdAndUp } = useDisplay();

const job = ref<Schemas["JobOut"] | null>(null);
const drawer = ref<"findings" | "tables" | null>(mdAndUp.value ? "findings" : null);
const card = ref(false);
const keysOpen = ref(false);
const finding = ref(false);
const history = ref(false);
const selected = ref<string | null>(null);

const layout = computed(() =>
  picking.side === "pos" ? schemes.scheme?.positive : schemes.scheme?.negative,
);
const findingCount = computed(() => schemes.findings?.findings.length ?? 0);

async function load() {
  try {
    const params = { path: { job_id: props.jobId } };
    job.value = await told(api.GET("/api/jobs/{job_id}", { params }));
    await schemes.open(props.variantId);
    selected.value = bench.switches[0]?.id ?? null;
  } catch (error) {
    notices.failed(error);
    await router.push({ name: "jobs" });
  }
}

function show(what: "findings" | "tables") {
  drawer.value = drawer.value === what ? null : what;
}

/** On a phone the drawer covers the drawing: get it out of the way. */
function showDrawing() {
  if (!mdAndUp.value) drawer.value = null;
}

function pickPart(id: string) {
  if (bench.switches.some((s) => s.id === id)) {
    selected.value = id;
    if (!picking.moving) bench.step(id, 1);
  }
  picking.pick("part", id);
}

function nextProfile() {
  const ids = [null, ...(schemes.scheme?.design.profiles ?? []).map((p) => p.id)];
  const at = ids.indexOf(bench.state.profile ?? null);
  bench.set({ profile: ids[(at + 1) % ids.length] ?? null });
}

function nextSwitch() {
  const ids = bench.switches.map((s) => s.id);
  selected.value = ids[(ids.indexOf(selected.value ?? "") + 1) % ids.length] ?? null;
}

const keys: Key[] = [
  { key: "E", words: "Start or stop the engine", run: toggleEngine },
  { key: "H", words: "Shore lead in or out", run: toggleShore },
  { key: "L", words: "Next load profile", run: nextProfile },
  { key: "[", words: "Turn the selected switch back", run: () => turn(-1) },
  { key: "]", words: "Turn the selected switch on", run: () => turn(1) },
  { key: "S", words: "Select the next switch", run: nextSwitch },
  { key: "F", words: "Findings", run: () => show("findings") },
  { key: "T", words: "Tables: who feeds, who charges", run: () => show("tables") },
  { key: "P", words: "Position card", run: () => (card.value = true) },
  { key: "N", words: "Positive or negative side", run: otherSide },
  { key: "U", words: "Undo", run: () => void schemes.undo() },
  { key: "U", shift: true, words: "Redo", run: () => void schemes.redo() },
  { key: "/", words: "Find a part or a cable", run: () => (finding.value = true) },
  { key: "4", words: "Scheme (the other stages are not built yet)", run: () => picking.drop() },
  { key: "Escape", words: "Put down what is picked", run: () => picking.drop() },
  { key: "?", words: "These keys", run: () => (keysOpen.value = true) },
];
useKeys(keys);

function toggleEngine() {
  bench.set({ engine: bench.state.engine === "on" ? "off" : "on" });
}
function toggleShore() {
  bench.set({ shore: !bench.state.shore });
}
function turn(by: 1 | -1) {
  if (selected.value) bench.step(selected.value, by);
}
function otherSide() {
  picking.side = picking.side === "pos" ? "neg" : "pos";
}

onMounted(load);
watch(() => props.variantId, load);
</script>

<template>
  <v-app-bar color="bar" density="compact" flat>
    <v-btn :icon="mdiArrowLeft" size="small" aria-label="All jobs" :to="{ name: 'jobs' }" />
    <span class="boat">
      <strong>{{ job?.name }}</strong>
      <span v-if="mdAndUp && job" class="kind">
        {{ job.boat.kind }} {{ length(job.boat.length_m) }}
      </span>
    </span>
    <VariantTabs v-if="mdAndUp" class="ml-4" :job="job" :variant="variantId" />
    <v-spacer />
    <v-btn
      :icon="mdiUndo"
      size="small"
      aria-label="Undo"
      :title="schemes.scheme?.can_undo ? `Undo: ${schemes.scheme.can_undo}` : 'Nothing to undo'"
      :disabled="!schemes.scheme?.can_undo || schemes.busy"
      @click="schemes.undo()"
    />
    <v-btn
      :icon="mdiRedo"
      size="small"
      aria-label="Redo"
      :title="schemes.scheme?.can_redo ? `Redo: ${schemes.scheme.can_redo}` : 'Nothing to redo'"
      :disabled="!schemes.scheme?.can_redo || schemes.busy"
      @click="schemes.redo()"
    />
    <v-btn :icon="mdiHistory" size="small" aria-label="History" @click="history = true" />
    <template v-if="mdAndUp">
      <v-btn :icon="mdiMagnify" size="small" aria-label="Find" @click="finding = true" />
      <LightSwitch />
      <v-btn :icon="mdiKeyboardOutline" size="small" aria-label="Keys" @click="keysOpen = true" />
    </template>
  </v-app-bar>
  <v-main class="main">
    <div class="stage">
      <StageRail v-if="mdAndUp" current="scheme" />
      <div class="work">
        <div class="upper">
          <div class="middle">
            <VariantTabs v-if="!mdAndUp" class="px-3 pt-2" :job="job" :variant="variantId" />
            <div class="tools">
              <h1 class="d-sr-only">Scheme</h1>
              <v-btn
                size="small"
                :prepend-icon="mdiListBoxOutline"
                :aria-pressed="drawer === 'findings'"
                :variant="drawer === 'findings' ? 'flat' : 'tonal'"
                @click="show('findings')"
              >
                {{ findingCount }} {{ findingCount === 1 ? "finding" : "findings" }}
              </v-btn>
              <v-btn
                size="small"
                :aria-pressed="drawer === 'tables'"
                :variant="drawer === 'tables' ? 'flat' : 'tonal'"
                @click="show('tables')"
              >
                Tables
              </v-btn>
              <v-btn size="small" @click="card = true">Position card</v-btn>
              <v-btn
                size="small"
                :aria-pressed="picking.side === 'neg'"
                :variant="picking.side === 'neg' ? 'flat' : 'tonal'"
                @click="otherSide"
              >
                {{ picking.side === "pos" ? "Negative side" : "Positive side" }}
              </v-btn>
              <LightSwitch v-if="!mdAndUp" />
              <MomentSums />
            </div>
            <div class="canvas">
              <SchemeDrawing
                v-if="schemes.scheme && layout"
                :design="schemes.scheme.design"
                :layout="layout"
                :point="bench.result?.point ?? null"
                :position-of="bench.positionOf"
                :cable-names="schemes.scheme.cable_names"
                :post-names="schemes.scheme.post_names"
                :picked="picking.picked?.id ?? null"
                :landing="picking.moving?.posts ?? null"
                @cable="picking.pick('cable', $event)"
                @part="pickPart"
                @post="picking.moveTo"
              />
              <v-progress-linear v-else indeterminate aria-label="Loading the scheme" />
              <PickSheet v-if="!mdAndUp" />
            </div>
          </div>
          <aside
            v-if="drawer || (mdAndUp && picking.picked)"
            class="drawer"
            aria-label="Beside the drawing"
          >
            <PickSheet v-if="mdAndUp" />
            <div v-if="drawer" class="drawer-head">
              <h2>{{ drawer === "findings" ? "Findings" : "Who feeds, who charges" }}</h2>
              <v-btn size="small" variant="text" @click="drawer = null">Hide</v-btn>
            </div>
            <FindingsList v-if="drawer === 'findings'" @shown="showDrawing" />
            <BenchTables v-else-if="drawer === 'tables'" />
          </aside>
        </div>
        <ConditionsTray :selected="selected" @select="selected = $event" />
      </div>
    </div>
  </v-main>
  <PositionCard v-model="card" />
  <HistoryDialog v-model="history" />
  <FindDialog v-model="finding" />
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
.main {
  height: 100dvh;
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
.upper {
  flex: 1;
  min-height: 0;
  display: flex;
}
.middle {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.tools {
  display: flex;
  flex: none;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  padding: 4px 12px;
}
.canvas {
  position: relative;
  flex: 1;
  min-height: 0;
  padding: 0 8px 4px;
}
.drawer {
  width: 308px;
  flex: none;
  overflow-y: auto;
  background: rgb(var(--v-theme-background));
  border-left: 1px solid rgb(var(--v-theme-ink), 0.25);
}
.drawer-head {
  position: sticky;
  top: 0;
  z-index: 1;
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 8px 12px;
  background: rgb(var(--v-theme-background));
}
h2 {
  font-size: 1.15rem;
}
@media (max-width: 959px) {
  .drawer {
    position: fixed;
    inset: 48px 0 0;
    width: auto;
    z-index: 5;
  }
  .tools {
    flex-wrap: nowrap;
    overflow-x: auto;
  }
  .tools > * {
    flex: none;
  }
}
</style>
