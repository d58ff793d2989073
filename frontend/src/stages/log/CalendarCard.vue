<script setup lang="ts">
/** The secret address of the service that is due, for a calendar program. */
import { useQuery } from "@tanstack/vue-query";
import { ref } from "vue";

import { api, unwrap } from "@/api/client";
import { queries } from "@/api/queries";
import { useNotices } from "@/app/notices";
import { day } from "@/shared/formats";

const notices = useNotices();
const address = ref("");
const link = useQuery(
  { queryKey: ["calendar"], queryFn: () => unwrap(api.GET("/api/service/calendar")) },
  queries,
);

async function ask(make: boolean) {
  try {
    if (make) address.value = (await unwrap(api.POST("/api/service/calendar"))).address;
    else {
      await unwrap(api.DELETE("/api/service/calendar"));
      address.value = "";
    }
    await link.refetch();
  } catch (error) {
    notices.failed(error);
  }
}
</script>

<template>
  <article class="card" aria-label="Calendar">
    <h3>Calendar of all boats</h3>
    <p>
      A calendar program shows what is due from a secret address. Whoever has it reads names of
      boats and services, nothing else.
    </p>
    <p v-if="address">
      <code>{{ address }}</code> Copy it now: it is not shown again.
    </p>
    <p v-else-if="link.data.value?.since">One is out since {{ day(link.data.value.since) }}.</p>
    <div class="row">
      <v-btn @click="ask(true)">
        {{ link.data.value?.since ? "Make a new one" : "Make an address" }}
      </v-btn>
      <v-btn v-if="link.data.value?.since" @click="ask(false)">End it</v-btn>
    </div>
  </article>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin-top: 8px;
}
code {
  overflow-wrap: anywhere;
}
</style>
