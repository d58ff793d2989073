<script setup lang="ts">
import { computed } from "vue";

import type { Schemas } from "@/api/client";
import { amps, volts, watts } from "@/shared/units";

import { useBench } from "./benchStore";
import { useScheme } from "@/documents/schemeStore";

type Cells = Record<string, Schemas["Cell"]>;

const bench = useBench();
const schemes = useScheme();

const names = computed(
  () => new Map(schemes.scheme?.design.components.map((part) => [part.id, part.name])),
);
const banks = computed(
  () => schemes.scheme?.design.components.filter((part) => part.kind === "bank") ?? [],
);
const tables = computed(() => [
  {
    title: "Which bank feeds which load",
    joined: "feeds",
    rows: rowsOf(bench.result?.loads_by_bank),
    rowWord: "Load",
  },
  {
    title: "Which source charges which bank",
    joined: "can charge",
    rows: rowsOf(bench.result?.sources_by_bank),
    rowWord: "Source",
  },
]);

function rowsOf(table: Record<string, Cells> | undefined) {
  return Object.entries(table ?? {}).map(([id, cells]) => ({
    id,
    name: names.value.get(id) ?? id,
    cells,
  }));
}

function words(cell: Schemas["Cell"] | undefined): string {
  if (!cell?.joined) return "–";
  return cell.current_a >= 0.05 ? amps(cell.current_a) : "joined";
}
</script>

<template>
  <div class="tables">
    <section v-for="table in tables" :key="table.title">
      <h3>{{ table.title }}</h3>
      <div class="scroll" tabindex="0" role="region" :aria-label="table.title">
        <table>
          <thead>
            <tr>
              <th scope="col">{{ table.rowWord }}</th>
              <th v-for="bank in banks" :key="bank.id" scope="col">{{ bank.name }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in table.rows" :key="row.id">
              <th scope="row">{{ row.name }}</th>
              <td
                v-for="bank in banks"
                :key="bank.id"
                :class="{
                  joined: row.cells[bank.id]?.joined,
                  flowing: (row.cells[bank.id]?.current_a ?? 0) >= 0.05,
                }"
              >
                {{ words(row.cells[bank.id]) }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
    <p class="key">
      Amps: passing now. <em>joined</em>: a closed path, nothing passing. –: no path.
    </p>
    <p v-if="bench.result" class="key">
      Lost as heat in cables and contacts: {{ watts(bench.result.point.totals.lost_w) }}.
    </p>
    <section v-if="Object.keys(bench.result?.point.converters ?? {}).length">
      <h3>Dc-dc chargers</h3>
      <dl>
        <template v-for="(now, id) in bench.result?.point.converters" :key="id">
          <dt>
            {{ names.get(String(id)) }}:
            <strong>{{
              { closed: "runs", open: "rests", chatters: "chatters" }[now.verdict]
            }}</strong>
          </dt>
          <dd>
            {{ now.why }}. Takes {{ amps(now.in_a) }}, gives {{ amps(now.out_a) }} at
            {{ volts(now.out_v) }}.
          </dd>
        </template>
      </dl>
    </section>
    <section v-if="Object.keys(bench.result?.point.relays ?? {}).length">
      <h3>Relays</h3>
      <dl>
        <template v-for="(relay, id) in bench.result?.point.relays" :key="id">
          <dt>
            {{ names.get(String(id)) }}: <strong>{{ relay.verdict }}</strong>
          </dt>
          <dd>
            {{ relay.why
            }}<span v-if="relay.holds && !relay.closed"
              >; it would stay closed if it had closed before</span
            >.
          </dd>
        </template>
      </dl>
    </section>
  </div>
</template>

<style scoped>
.tables {
  padding: 10px 12px 24px;
}
h3 {
  font-size: 1rem;
  margin: 8px 0 6px;
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 0.92rem;
}
th,
td {
  text-align: right;
  padding: 6px 5px;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.2);
  vertical-align: top;
  white-space: nowrap;
}
thead th {
  white-space: normal;
}
th:first-child {
  text-align: left;
  white-space: normal;
}
.joined {
  background: rgb(var(--v-theme-water), 0.5);
}
.flowing {
  font-weight: 800;
}
.key {
  font-size: 0.85rem;
  margin: 8px 0;
}
dd {
  margin: 0 0 8px;
}
</style>
