<script setup lang="ts">
/** All runs, drawn only as far as they are seen; Enter and arrows go down a column. */
import { nextTick, ref } from "vue";
import { useDisplay } from "vuetify";
import { VVirtualScroll } from "vuetify/components";

import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";
import { readNumber } from "@/shared/fields/numbers";

import RunCells from "./RunCells.vue";
import { fieldsFor, ROW_PX, type Fields, type RunRow } from "./runs";

const props = defineProps<{ rows: RunRow[]; gauges: string[]; picked: string | null }>();
const emit = defineEmits<{ pick: [id: string]; paste: [text: string] }>();

const schemes = useScheme();
const notices = useNotices();
const { mdAndUp } = useDisplay();
const list = ref<InstanceType<typeof VVirtualScroll> | null>(null);
const frame = ref<HTMLElement | null>(null);

function set(row: RunRow, fields: Fields, only?: string) {
  void schemes.setCables(fieldsFor(row, fields, only));
}

function enterLength(row: RunRow, cable: string, text: string) {
  const read = readNumber(text);
  if ("wrong" in read || read.value === null) {
    const why = "wrong" in read ? read.wrong : "a length is needed";
    notices.failed(new Error(`${row.name}: ${why}`));
    return;
  }
  set(row, { length_m: read.value, estimated: false }, cable);
}

async function walk(event: KeyboardEvent) {
  const target = event.target as HTMLElement;
  const [row, column] = (target.dataset["cell"] ?? "").split(":");
  if (row === undefined || column === undefined) return;
  const inSelect = target instanceof HTMLSelectElement;
  const down = event.key === "Enter" || (event.key === "ArrowDown" && !inSelect);
  if (!down && !(event.key === "ArrowUp" && !inSelect)) return;
  event.preventDefault();
  const next = Number(row) + (down && !event.shiftKey ? 1 : -1);
  if (next < 0 || next >= props.rows.length) {
    target.blur();
    return;
  }
  await focusCell(next, column);
}

async function focusCell(row: number, column: string) {
  const find = () => frame.value?.querySelector<HTMLElement>(`[data-cell="${row}:${column}"]`);
  if (!find()) {
    list.value?.scrollToIndex(row);
    await nextTick();
    await new Promise(requestAnimationFrame);
  }
  const cell = find();
  cell?.focus();
  if (cell instanceof HTMLInputElement) cell.select();
}

function paste(event: ClipboardEvent) {
  const text = event.clipboardData?.getData("text/plain") ?? "";
  if (!/[\t\n]/.test(text.trim())) return;
  event.preventDefault();
  emit("paste", text);
}
</script>

<template>
  <div ref="frame" class="frame" role="table" aria-label="Runs" :aria-rowcount="rows.length + 1">
    <div v-if="mdAndUp" class="row head" role="row">
      <span role="columnheader">Run and purpose</span>
      <span role="columnheader" class="right">Out <small>m</small></span>
      <span role="columnheader" class="right">Back <small>m</small></span>
      <span role="columnheader" class="right">Current <small>of allowed</small></span>
      <span role="columnheader">Size</span>
      <span role="columnheader" class="right spare">By current, <br />by drop</span>
      <span role="columnheader" class="right">Whole path <small>lost of allowed</small></span>
      <span role="columnheader">Device <small>A, m from source</small></span>
      <span role="columnheader" class="right spare">Load <small>V</small></span>
      <span role="columnheader">Stays</span>
    </div>
    <v-virtual-scroll
      ref="list"
      class="list"
      :items="rows"
      :item-height="mdAndUp ? ROW_PX.wide : ROW_PX.narrow"
      @keydown="walk"
      @paste="paste"
    >
      <template #default="{ item, index }">
        <RunCells
          :row="item"
          :index="index"
          :gauges="gauges"
          :picked="item.id === picked"
          :wide="mdAndUp"
          @pick="emit('pick', item.id)"
          @length="(cable, text) => enterLength(item, cable, text)"
          @set="(fields) => set(item, fields)"
        />
      </template>
    </v-virtual-scroll>
  </div>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  height: max(340px, calc(100dvh - 232px));
  min-width: 0;
}
.list {
  flex: 1;
  min-height: 0;
  overflow-y: scroll;
}
.head {
  display: grid;
  grid-template-columns: var(--run-columns);
  gap: 0 8px;
  padding: 4px 8px 4px 15px;
  overflow-y: scroll;
  scrollbar-color: transparent transparent;
  font-weight: 700;
  font-size: 0.82rem;
  line-height: 1.15;
  align-items: end;
}
.right {
  text-align: right;
}
.head small {
  display: block;
  font-weight: 400;
}
.frame {
  --run-columns: minmax(150px, 1fr) 60px 60px 96px 108px 78px 92px 142px 54px 44px;
  container: runs / inline-size;
}
@container runs (max-width: 1000px) {
  .head,
  .list {
    --run-columns: minmax(120px, 1fr) 56px 56px 92px 106px 82px 138px 44px;
  }
  .spare {
    display: none;
  }
}
</style>
