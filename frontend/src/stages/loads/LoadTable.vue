<script setup lang="ts">
/** The audit as a table: a cell is an entry; Enter and arrows go down a column, paste fills. */
import { computed, nextTick, ref } from "vue";

import type { Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useSurvey } from "@/documents/surveyStore";
import { useEdits } from "@/documents/useEdits";
import { withEntry } from "@/shared/records";
import { fineAmpHours, percent } from "@/shared/units";

import LoadCells from "./LoadCells.vue";
import { columnsFor, pastedTable, type Column, type Item, type Refused } from "./cells";

const props = defineProps<{
  day: Schemas["ProfileDay"] | null;
  picked: string | null;
  feed: string | null;
}>();
const emit = defineEmits<{ pick: [item: string]; paste: [table: string] }>();

const surveys = useSurvey();
const notices = useNotices();
const { addRow } = useEdits();
const table = ref<HTMLTableElement | null>(null);
/** Entries that were not kept: by load, by column. */
const refused = ref<Record<string, Record<string, Refused>>>({});
const columns = computed(() => columnsFor(surveys.survey?.profiles ?? []));
const groups = computed(() => {
  const found = new Map<string, Item[]>();
  for (const item of surveys.survey?.items ?? []) {
    found.set(item.group, [...(found.get(item.group) ?? []), item]);
  }
  return [...found];
});
const inOrder = computed(() => groups.value.flatMap(([, items]) => items));
const places = computed(() => new Map(inOrder.value.map((item, n) => [item.id, n])));
const used = computed(() => new Map(props.day?.items.map((row) => [row.item, row])));
const BASIS: Record<Item["basis"], string> = {
  assumed: "◆ assumed",
  difference: "✓ by difference",
  clamp: "✓ by clamp",
  plate: "plate",
  typed: "typed in",
};

function mark(item: Item, column: Column, entry: Refused | null) {
  const row = withEntry(refused.value[item.id], column.id, entry);
  refused.value = { ...refused.value, [item.id]: row };
}

async function enter(item: Item, column: Column, text: string) {
  const was = refused.value[item.id]?.[column.id];
  const entry = text === column.show(item) ? null : column.read(text, item);
  if (entry && "wrong" in entry) {
    mark(item, column, { text, why: entry.wrong });
    notices.notice = { text: `${item.name}: ${entry.wrong}`, details: [], kind: "error" };
    return;
  }
  const saved = !entry || (await surveys.put("items", { id: item.id, ...entry.fields }));
  if (!saved || was) mark(item, column, saved ? null : { text, why: "Not saved" });
}

async function add(event: Event) {
  const input = event.target as HTMLInputElement;
  const name = input.value.trim();
  if (!name) return;
  const group = inOrder.value.at(-1)?.group ?? "Other";
  if (await addRow("items", name, { name, group, feed: props.feed, basis: "typed" })) {
    input.value = "";
    await nextTick();
    focusCell(inOrder.value.length - 1, 1);
  }
}

function focusCell(row: number, column: number) {
  const cell = table.value?.querySelector<HTMLElement>(`[data-cell="${row}:${column}"]`);
  cell?.focus();
  if (cell instanceof HTMLInputElement) cell.select();
}

function walk(event: KeyboardEvent) {
  const target = event.target as HTMLElement;
  const [row, column] = (target.dataset["cell"] ?? "").split(":").map(Number);
  if (row === undefined || column === undefined || Number.isNaN(row)) return;
  const inSelect = target instanceof HTMLSelectElement;
  const down = event.key === "Enter" || (event.key === "ArrowDown" && !inSelect);
  if (!down && !(event.key === "ArrowUp" && !inSelect)) return;
  event.preventDefault();
  focusCell(row + (down && !event.shiftKey ? 1 : -1), column);
}

/** An open sheet follows the row that is worked on; entering numbers does not open it. */
function follow(item: string) {
  if (props.picked) emit("pick", item);
}

function paste(event: ClipboardEvent) {
  const text = event.clipboardData?.getData("text/plain") ?? "";
  const cell = (event.target as HTMLElement).dataset["cell"];
  if (!cell || !/[\t\n]/.test(text.trim())) return;
  event.preventDefault();
  const [row = 0, column = 0] = cell.split(":").map(Number);
  const ids = inOrder.value.slice(row).map((item) => item.id);
  emit("paste", pastedTable(text, columns.value, column, ids));
}
</script>

<template>
  <div class="scroll">
    <table ref="table" aria-label="Loads" @keydown="walk" @paste="paste">
      <colgroup>
        <col v-for="column in columns" :key="column.id" :class="column.id.split(' ')[0]" />
        <col class="result" />
        <col class="known" />
      </colgroup>
      <thead>
        <tr>
          <th v-for="column in columns" :key="column.id" scope="col">
            {{ column.title }}
            <small v-if="column.unit">{{ column.unit }}</small>
          </th>
          <th scope="col">A day <small>Ah</small></th>
          <th scope="col">Known by</th>
        </tr>
      </thead>
      <tbody v-for="[group, items] in groups" :key="group">
        <tr class="group">
          <th :colspan="columns.length + 2" scope="rowgroup">{{ group }}</th>
        </tr>
        <tr v-for="item in items" :key="item.id" :class="{ picked: item.id === picked }">
          <LoadCells
            :item="item"
            :columns="columns"
            :row="places.get(item.id) ?? 0"
            :refused="refused[item.id]"
            @enter="(column, text) => enter(item, column, text)"
            @focus="follow(item.id)"
          />
          <td class="result" data-title="A day">
            <strong>{{ fineAmpHours(used.get(item.id)?.charge_ah ?? 0) }}</strong>
            <small v-if="used.has(item.id)">{{ percent(used.get(item.id)?.share ?? 0) }}</small>
          </td>
          <td class="basis">
            <span :class="item.basis === 'assumed' ? 'text-warning' : ''">
              {{ item.draw == null ? "? to find out" : BASIS[item.basis] }}
            </span>
            <button
              type="button"
              class="more"
              :aria-label="`More about ${item.name}`"
              @click="emit('pick', item.id)"
            >
              …
            </button>
          </td>
        </tr>
      </tbody>
      <tbody>
        <tr>
          <td :colspan="columns.length + 2">
            <input
              type="text"
              class="new"
              placeholder="Name of another load, then Enter"
              aria-label="Name of another load"
              maxlength="60"
              @change="add"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  min-width: 820px;
  /* Columns of their own width: a number that changes moves nothing else. */
  table-layout: fixed;
}
col.draw {
  width: 66px;
}
col.unit,
col.current {
  width: 58px;
}
col.duty {
  width: 56px;
}
col.hours {
  width: 9%;
}
col.result {
  width: 84px;
}
col.known {
  width: 142px;
}
thead th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: rgb(var(--v-theme-background));
  font-size: 0.84rem;
  text-align: left;
  padding: 4px 6px;
  vertical-align: bottom;
}
thead small {
  display: block;
  font-weight: 400;
}
.group th {
  text-align: left;
  padding: 8px 6px 2px;
  font-size: 0.92rem;
  color: rgb(var(--v-theme-secondary));
}
td {
  padding: 1px;
}
.picked :deep(td) {
  background: rgb(var(--v-theme-surface-variant));
}
.result {
  white-space: nowrap;
  text-align: right;
  padding: 0 8px;
  min-width: 84px;
}
.result small {
  display: block;
  line-height: 1;
}
.basis {
  white-space: nowrap;
  font-size: 0.88rem;
  padding-left: 6px;
}
.more {
  min-width: 36px;
  height: 36px;
  font-weight: 800;
  color: inherit;
}
.new {
  width: 100%;
  max-width: 380px;
  height: 36px;
  padding: 0 7px;
  margin-top: 8px;
  font: inherit;
  color: rgb(var(--v-theme-on-surface));
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-ink), 0.28);
  border-radius: 6px;
}
/* On a phone a load is a card: nothing is looked for sideways. */
@media (max-width: 959px) {
  .scroll {
    overflow: visible;
  }
  table,
  tbody,
  .group,
  .group th {
    display: block;
    min-width: 0;
  }
  thead,
  colgroup {
    display: none;
  }
  tbody tr:not(.group) {
    display: grid;
    grid-template-columns: repeat(12, minmax(0, 1fr));
    gap: 4px 6px;
    align-items: end;
    margin-bottom: 10px;
    padding: 6px 8px;
    border: 1px solid rgb(var(--v-theme-ink), 0.25);
    border-radius: 10px;
  }
  tbody tr > td[colspan] {
    grid-column: 1 / -1;
  }
  .result,
  .basis {
    grid-column: span 5;
    text-align: left;
  }
  .basis {
    display: flex;
    grid-column: span 7;
    align-items: center;
    justify-content: space-between;
  }
  .result::before {
    content: attr(data-title);
    display: block;
    font-size: 0.8rem;
  }
  .more {
    min-width: 48px;
    height: 48px;
  }
  .new {
    height: 48px;
    max-width: none;
  }
}
</style>
