<script setup lang="ts">
/** What the jobs take on the server's disk, the largest first. */
import { onMounted, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { megabytes } from "@/shared/units";

const notices = useNotices();
const rows = ref<Schemas["JobDiskOut"][]>([]);

onMounted(async () => {
  try {
    rows.value = await unwrap(api.GET("/api/workshop/disk"));
  } catch (error) {
    notices.failed(error);
  }
});
</script>

<template>
  <section v-if="rows.length" aria-label="Disk">
    <h2>Disk, the largest jobs first</h2>
    <table class="plain">
      <thead>
        <tr>
          <th scope="col">Boat</th>
          <th scope="col">All</th>
          <th scope="col">Photographs</th>
          <th scope="col">Records</th>
          <th scope="col">Computed days</th>
          <th scope="col">Files</th>
          <th scope="col">Versions</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.job">
          <th scope="row">{{ row.name }}{{ row.binned ? " (bin)" : "" }}</th>
          <td>
            <strong>{{ megabytes(row.total) }}</strong>
          </td>
          <td>{{ megabytes(row.photographs) }}</td>
          <td>{{ megabytes(row.records) }}</td>
          <td>{{ megabytes(row.studies) }}</td>
          <td>{{ megabytes(row.files) }}</td>
          <td>{{ megabytes(row.versions) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section {
  overflow-x: auto;
}
</style>
