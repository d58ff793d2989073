<script setup lang="ts">
/** A stage with a heading, its parts as tabs, and a drawer for findings at its side. */
import { mdiListBoxOutline } from "@mdi/js";
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";

import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";

import FindingsList from "./FindingsList.vue";
import SideDrawer from "./SideDrawer.vue";

export interface StagePart {
  id: string;
  name: string;
  count?: number;
}

defineProps<{ title: string; parts: StagePart[]; side?: string | null; manyParts?: boolean }>();
const emit = defineEmits<{ closeSide: [] }>();
const part = defineModel<string>("part", { required: true });
const findingsOpen = defineModel<boolean>("findings", { required: true });

const schemes = useScheme();
const open = useOpenJob();
const router = useRouter();
const content = ref<HTMLElement | null>(null);
watch(part, () => content.value?.scrollTo(0, 0));
const count = computed(() => schemes.counting.length);

function showOnDrawing() {
  const { job: jobId, variant: variantId } = open.ids;
  void router.push({ name: "scheme", params: { jobId, variantId } });
}
</script>

<template>
  <div class="upper">
    <div class="middle">
      <header class="head">
        <h1 :class="{ grow: manyParts }">{{ title }}</h1>
        <nav class="parts" :class="{ below: manyParts }" :aria-label="`Parts of ${title}`">
          <button
            v-for="item in parts"
            :key="item.id"
            type="button"
            :class="{ here: part === item.id }"
            :aria-current="part === item.id ? 'true' : undefined"
            @click="part = item.id"
          >
            {{ item.name }}
            <span v-if="item.count" class="count" :title="`${item.count} to find out`">
              {{ item.count }}<span class="d-sr-only"> to find out</span>
            </span>
          </button>
        </nav>
        <slot name="tools" />
        <v-btn
          class="findings"
          size="small"
          :prepend-icon="mdiListBoxOutline"
          :aria-pressed="findingsOpen"
          :variant="findingsOpen ? 'flat' : 'tonal'"
          @click="findingsOpen = !findingsOpen"
        >
          {{ count }} {{ count === 1 ? "finding" : "findings" }}
        </v-btn>
      </header>
      <slot name="top" />
      <div ref="content" class="content"><slot /></div>
    </div>
    <SideDrawer
      v-if="side || findingsOpen"
      :label="side || 'Findings'"
      :title="side || 'Findings'"
      @hide="side ? emit('closeSide') : (findingsOpen = false)"
    >
      <slot v-if="side" name="side" />
      <FindingsList v-else @shown="showOnDrawing" />
    </SideDrawer>
  </div>
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
.head {
  display: flex;
  flex: none;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
  padding: 8px 16px 6px;
}
h1 {
  font-size: 1.45rem;
}
.grow {
  flex: 1;
}
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  flex: 1;
}
.below {
  flex: 1 0 100%;
  order: 3;
}
.parts button {
  min-height: 40px;
  padding: 4px 12px;
  font-weight: 600;
  color: rgb(var(--v-theme-on-background));
  border-bottom: 4px solid transparent;
}
.parts button:hover {
  border-bottom-color: rgb(var(--v-theme-ink), 0.3);
}
.parts .here,
.parts .here:hover {
  font-weight: 800;
  border-bottom-color: rgb(var(--v-theme-warning));
}
.count {
  display: inline-block;
  min-width: 1.6em;
  padding: 0 5px;
  margin-left: 4px;
  border: 1.5px solid rgb(var(--v-theme-info));
  border-radius: 99px;
  color: rgb(var(--v-theme-info));
  font-size: 0.8rem;
  font-weight: 700;
}
.content {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 4px 16px 32px;
}
@media (max-width: 959px) {
  .head {
    padding: 6px 12px;
  }
  .head h1 {
    display: none;
  }
  .parts {
    flex-wrap: nowrap;
    flex: 1 0 100%;
    order: 3;
    overflow-x: auto;
  }
  .parts button {
    flex: none;
    min-height: 48px;
  }
  .content {
    padding: 4px 12px 32px;
  }
}
</style>
