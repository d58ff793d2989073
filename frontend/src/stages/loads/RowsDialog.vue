<script setup lang="ts">
/** Loads or counted days on their way in from a table. */
import { api, unwrap, type Schemas } from "@/api/client";
import { useOpenJob } from "@/documents/openJob";
import { useSurvey } from "@/documents/surveyStore";
import TableIn from "@/shared/TableIn.vue";

const props = defineProps<{ which: "items" | "counted"; table: string | Blob | null }>();
const emit = defineEmits<{ close: [] }>();

type Row = Schemas["RowsOut"]["rows"][number];
const surveys = useSurvey();
const open = useOpenJob();
const FIRST = 8;

const read = (table: string | Blob) =>
  unwrap(
    api.POST("/api/jobs/{job_id}/rows/{which}", {
      params: { path: { job_id: open.ids.job, which: props.which } },
      body: table as never,
      bodySerializer: (body) => body,
      headers: { "Content-Type": "text/csv" },
    }),
  );
const keep = (rows: Row[]) => surveys.put(props.which, ...rows);
const names = (rows: Row[]) =>
  rows
    .slice(0, FIRST)
    .map((row) => row.name ?? row.date)
    .join(", ");
</script>

<template>
  <TableIn
    title="Table to bring in"
    does="can be kept"
    :table="table"
    :busy="surveys.busy"
    :read="read"
    :keep="keep"
    @close="emit('close')"
  >
    <template #default="{ rows }">
      <p>{{ names(rows) }}</p>
    </template>
  </TableIn>
</template>
