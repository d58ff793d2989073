<script setup lang="ts">
import { computed, ref, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { signedAmps } from "@/shared/units";

import { useBench } from "./benchStore";
import { useScheme } from "@/documents/schemeStore";

type Row = Schemas["PositionRow"];

const open = defineModel<boolean>({ required: true });
const schemes = useScheme();
const bench = useBench();
const notices = useNotices();
const card = ref<Schemas["PositionCard"] | null>(null);

const names = computed(
  () => new Map(schemes.scheme?.design.components.map((part) => [part.id, part.name])),
);
const banks = computed(
  () => schemes.scheme?.design.components.filter((part) => part.kind === "bank") ?? [],
);

function name(id: string): string {
  return names.value.get(id) ?? id;
}

/** Loads grouped by the banks that feed them: "House panel, Bilge pump". */
function fed(row: Row, bank: string): string {
  const loads = Object.entries(row.fed_by).filter(([, by]) => by.includes(bank));
  return loads.map(([id]) => name(id)).join(", ");
}

function turnTo(row: Row) {
  bench.set({ engine: row.engine, positions: { ...bench.state.positions, ...row.positions } });
  open.value = false;
}

watch(open, async (shown) => {
  if (!shown || !schemes.scheme) return;
  card.value = null;
  try {
    const params = { path: { variant_id: schemes.scheme.variant } };
    const found = await unwrap(
      api.POST("/api/variants/{variant_id}/positions", { params, body: bench.state }),
    );
    card.value = found.card;
  } catch (error) {
    notices.failed(error);
    open.value = false;
  }
});

const markOf = (id: string, position: string | undefined) =>
  schemes.scheme?.switches.find((one) => one.id === id)?.marks[position ?? ""];
const posts = (row: Row, id: string) => {
  const sets = row.joined[id] ?? [];
  if (!sets.length) return "no posts joined";
  return sets.map((set) => set.map((post) => post.replace("_", " ")).join(" – ")).join("; ");
};
</script>

<template>
  <v-dialog v-model="open" max-width="1240" scrollable aria-label="Position card">
    <v-card>
      <v-card-title class="head">
        Position card: {{ schemes.scheme?.name }}
        <v-btn @click="open = false">Close</v-btn>
      </v-card-title>
      <v-card-text>
        <p>
          Every position of every switch, engine stopped and running; shore lead, sun and loads as
          they stand on the bench. Under each position, the posts that an ohmmeter finds joined with
          the cables off.
          <span v-if="card?.fixed.length">
            Left as they stand: {{ card.fixed.map(name).join(", ") }}.
          </span>
        </p>
        <v-progress-linear v-if="!card" indeterminate aria-label="Computing" />
        <div v-else class="scroll" tabindex="0" role="region" aria-label="Positions">
          <table>
            <thead>
              <tr>
                <th v-for="id in card.switches" :key="id" scope="col">{{ name(id) }}</th>
                <th scope="col">Engine</th>
                <th v-for="bank in banks" :key="bank.id" scope="col">{{ bank.name }}</th>
                <th scope="col">Dead</th>
                <th scope="col">Danger</th>
                <th scope="col"><span class="d-sr-only">Set the bench</span></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(row, n) in card.rows" :key="n" :class="{ bad: row.dangers.length }">
                <th v-for="id in card.switches" :key="id" scope="row" class="position">
                  {{ row.positions[id] }}
                  <span v-if="markOf(id, row.positions[id])" class="mark">
                    “{{ markOf(id, row.positions[id]) }}”
                  </span>
                  <div class="posts">{{ posts(row, id) }}</div>
                </th>
                <td>{{ row.engine === "on" ? "running" : "stopped" }}</td>
                <td v-for="bank in banks" :key="bank.id">
                  <strong>{{ signedAmps(row.charging_a[bank.id] ?? 0) }}</strong>
                  <div v-if="row.charged_by[bank.id]?.length">
                    from {{ row.charged_by[bank.id]?.map(name).join(", ") }}
                  </div>
                  <div v-if="fed(row, bank.id)">feeds {{ fed(row, bank.id) }}</div>
                </td>
                <td>{{ row.dead.map(name).join(", ") || "–" }}</td>
                <td>
                  <div v-for="danger in row.dangers" :key="danger.words" class="text-error danger">
                    ▲ {{ danger.words }}
                  </div>
                  <span v-if="!row.dangers.length">–</span>
                </td>
                <td><v-btn size="small" @click="turnTo(row)">Set</v-btn></td>
              </tr>
            </tbody>
          </table>
        </div>
      </v-card-text>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
}
.scroll {
  overflow-x: auto;
  margin-top: 8px;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 0.93rem;
  line-height: 1.3;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 6px 8px;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.22);
}
thead th {
  position: sticky;
  top: 0;
  background: rgb(var(--v-theme-surface));
}
.position {
  font-size: 1.15rem;
  font-weight: 800;
  text-transform: uppercase;
}
.bad {
  box-shadow: inset 6px 0 0 rgb(var(--v-theme-error));
}
.danger {
  font-weight: 700;
  min-width: 160px;
}
.mark {
  text-transform: none;
  font-weight: 400;
}
.posts {
  text-transform: none;
  font-weight: 400;
  font-size: 0.86rem;
}
</style>
