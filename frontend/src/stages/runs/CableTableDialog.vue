<script setup lang="ts">
/** Figures of cables on their way in from a table. */
import { api, unwrap } from "@/api/client";
import { useScheme } from "@/documents/schemeStore";
import TableIn from "@/shared/TableIn.vue";

defineProps<{ table: string | Blob | null }>();
const emit = defineEmits<{ close: [] }>();
const schemes = useScheme();

const read = (table: string | Blob) =>
  unwrap(
    api.POST("/api/variants/{variant_id}/runs.csv", {
      params: { path: { variant_id: schemes.scheme?.variant ?? "" } },
      body: table as never,
      bodySerializer: (body) => body,
      headers: { "Content-Type": "text/csv" },
    }),
  );
</script>

<template>
  <TableIn
    title="Table of cables to bring in"
    does="change a cable"
    :table="table"
    :busy="schemes.busy"
    :read="read"
    :keep="schemes.setCables"
    @close="emit('close')"
  />
</template>
