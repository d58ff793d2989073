<script setup lang="ts">
/** Prices, stock and receipts on their way in from a supplier's table. */
import { api, unwrap, type Schemas } from "@/api/client";
import TableIn from "@/shared/TableIn.vue";

import type { NewEntry, NewPrice } from "./useBuild";

type Row = Schemas["PartsRowOut"];
const props = defineProps<{
  table: Blob | null;
  variantId: string;
  busy: boolean;
  enter: (...made: NewEntry[]) => Promise<boolean>;
  price: (...rows: NewPrice[]) => Promise<boolean>;
}>();
const emit = defineEmits<{ close: [] }>();

const read = (table: string | Blob) =>
  unwrap(
    api.POST("/api/variants/{variant_id}/build/parts.csv", {
      params: { path: { variant_id: props.variantId } },
      body: table as never,
      bodySerializer: (body) => body,
      headers: { "Content-Type": "text/csv" },
    }),
  );

/** What a row says for the price list: nothing of what it leaves out. */
function priced({ item, price, kept, instead, note }: Row): NewPrice | null {
  const said = Object.entries({ price, kept, instead, note }).filter(([, v]) => v !== null);
  return said.length ? { item, ...Object.fromEntries(said) } : null;
}

async function keep(rows: Row[]): Promise<boolean> {
  const prices = rows.map(priced).filter((row) => row !== null);
  const came = rows.flatMap(({ key, received }) =>
    received === null ? [] : [{ kind: "received" as const, target: key, count: received }],
  );
  return (
    (!prices.length || (await props.price(...prices))) && (!came.length || props.enter(...came))
  );
}
</script>

<template>
  <TableIn
    title="Prices and receipts to bring in"
    does="say something new"
    :table="table"
    :busy="busy"
    :read="read"
    :keep="keep"
    @close="emit('close')"
  />
</template>
