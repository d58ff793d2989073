<script setup lang="ts">
import { mdiListBoxOutline } from "@mdi/js";
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import { useDisplay } from "vuetify";

import type { Key } from "@/app/keys";
import { useScheme } from "@/documents/schemeStore";
import SchemeDrawing from "@/drawing/SchemeDrawing.vue";
import FindingsList from "@/stages/frame/FindingsList.vue";
import SideDrawer from "@/stages/frame/SideDrawer.vue";
import StageFrame from "@/stages/frame/StageFrame.vue";

import AddDialog from "./AddDialog.vue";
import BenchTables from "./BenchTables.vue";
import { useBench } from "./benchStore";
import ConditionsTray from "./ConditionsTray.vue";
import EmptyScheme from "./EmptyScheme.vue";
import FindDialog from "./FindDialog.vue";
import MomentSums from "./MomentSums.vue";
import ParkedStrip from "./ParkedStrip.vue";
import PickSheet from "./PickSheet.vue";
import { usePicking } from "./picking";
import PathFollower, { type Followed } from "./PathFollower.vue";
import PositionCard from "./PositionCard.vue";

defineProps<{ jobId: string; variantId: string }>();

const schemes = useScheme();
const bench = useBench();
const picking = usePicking();
const route = useRoute();
const { mdAndUp } = useDisplay();

const drawer = ref<"findings" | "tables" | null>(mdAndUp.value ? "findings" : null);
const card = ref(false);
const finding = ref(false);
const adding = ref(false);
const following = ref(false);
const followed = ref<Followed | null>(null);
const chosen = ref<string | null>(null);
/** The switch that the keys turn: the first one until another is chosen. */
const selected = computed(() => chosen.value ?? bench.switches[0]?.id ?? null);

const layout = computed(() =>
  picking.side === "pos" ? schemes.scheme?.positive : schemes.scheme?.negative,
);
const findingCount = computed(() => schemes.counting.length);

function opened() {
  // The square code on a label opens its part.
  const { part } = route.query;
  if (typeof part === "string" && schemes.scheme?.design.components.some((c) => c.id === part)) {
    picking.pick("part", part);
    drawer.value = null;
  }
}

function show(what: "findings" | "tables") {
  drawer.value = drawer.value === what ? null : what;
}

/** One path at a time, piece by piece; what was picked is put down for it. */
function follow() {
  following.value = !following.value;
  followed.value = null;
  picking.drop();
  showDrawing();
}

/** On a phone the drawer covers the drawing: get it out of the way. */
function showDrawing() {
  if (!mdAndUp.value) drawer.value = null;
}

function pickPart(id: string) {
  if (bench.switches.some((s) => s.id === id)) {
    chosen.value = id;
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
  chosen.value = ids[(ids.indexOf(selected.value ?? "") + 1) % ids.length] ?? null;
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
  {
    key: "P",
    words: "Position card",
    open: () => card.value,
    run: () => (card.value = !card.value),
  },
  { key: "W", words: "Follow a path", open: () => following.value, run: follow },
  { key: "N", words: "Positive or negative side", run: otherSide },
  { key: "/", words: "Find a part or a cable", run: () => (finding.value = true) },
  { key: "Escape", words: "Put down what is picked", run: () => picking.drop() },
];

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
</script>

<template>
  <StageFrame
    :job-id="jobId"
    :variant-id="variantId"
    stage="scheme"
    :keys="keys"
    :find="() => (finding = true)"
    @opened="opened"
  >
    <div class="upper">
      <div class="middle">
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
            :aria-pressed="following"
            :variant="following ? 'flat' : 'tonal'"
            @click="follow"
          >
            Follow a path
          </v-btn>
          <v-btn size="small" @click="adding = true">Add</v-btn>
          <v-btn size="small" :to="{ name: 'patterns', params: { jobId, variantId } }">
            Patterns
          </v-btn>
          <v-btn size="small" :to="{ name: 'compare', params: { jobId, variantId } }">
            Compare
          </v-btn>
          <v-btn
            size="small"
            :aria-pressed="picking.side === 'neg'"
            :variant="picking.side === 'neg' ? 'flat' : 'tonal'"
            @click="otherSide"
          >
            {{ picking.side === "pos" ? "Negative side" : "Positive side" }}
          </v-btn>
          <v-btn size="small" :to="{ name: 'drawing', params: { jobId, variantId } }">Print</v-btn>
          <MomentSums />
        </div>
        <PathFollower v-if="following" @at="followed = $event" />
        <EmptyScheme @add="adding = true" />
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
            :followed="followed"
            @cable="picking.pick('cable', $event)"
            @part="pickPart"
            @post="picking.moveTo"
          />
          <v-progress-linear v-else indeterminate aria-label="Loading the scheme" />
          <PickSheet v-if="!mdAndUp" />
        </div>
        <ParkedStrip />
      </div>
      <SideDrawer
        v-if="drawer || (mdAndUp && picking.picked)"
        label="Beside the drawing"
        :title="drawer && (drawer === 'findings' ? 'Findings' : 'Who feeds, who charges')"
        @hide="drawer = null"
      >
        <template v-if="mdAndUp" #above><PickSheet /></template>
        <FindingsList v-if="drawer === 'findings'" @shown="showDrawing" />
        <BenchTables v-else-if="drawer === 'tables'" />
      </SideDrawer>
    </div>
    <ConditionsTray :selected="selected" @select="chosen = $event" />
  </StageFrame>
  <PositionCard v-model="card" />
  <FindDialog v-model="finding" />
  <AddDialog v-model="adding" />
</template>

<style scoped>
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
.tools a {
  font-weight: inherit;
}
.canvas {
  position: relative;
  flex: 1;
  min-height: 0;
  padding: 0 8px 4px;
}
@media (max-width: 959px) {
  .tools {
    flex-wrap: nowrap;
    overflow-x: auto;
  }
  .tools > * {
    flex: none;
  }
}
</style>
