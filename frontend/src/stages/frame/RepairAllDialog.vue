<script setup lang="ts">
/** All repairs that only make things stronger where they are: the list first. */
import { computed, onMounted, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";

const emit = defineEmits<{ close: [] }>();

const schemes = useScheme();
const notices = useNotices();
const plan = ref<Schemas["RepairsOut"] | null>(null);
const grave = computed(
  () =>
    plan.value?.left.filter((f) => f.severity === "danger" || f.severity === "fault").length ?? 0,
);

onMounted(async () => {
  try {
    plan.value = await unwrap(
      api.POST("/api/variants/{variant_id}/repairs", {
        params: { path: { variant_id: schemes.scheme?.variant ?? "" } },
        body: { keys: null },
      }),
    );
  } catch (error) {
    notices.failed(error);
    emit("close");
  }
});

async function keep() {
  const change = plan.value?.change;
  if (change && (await schemes.change({ ...change }))) emit("close");
}
</script>

<template>
  <v-dialog
    :model-value="true"
    scrollable
    max-width="760"
    aria-label="Repairs that are safe"
    @update:model-value="emit('close')"
  >
    <v-card title="Repairs that are safe to make at once">
      <v-card-text>
        <p>
          They change sizes, insulation, lugs and devices where they are; no lead goes to another
          post, no setting is changed.
        </p>
        <v-progress-linear v-if="!plan" indeterminate aria-label="Working out the repairs" />
        <template v-else>
          <p class="sum">{{ plan.repairs.length }} repairs, in this order:</p>
          <ol>
            <li v-for="(one, n) in plan.repairs" :key="n">
              <strong>{{ one.words }}</strong>
              <small>{{ one.rule }}: {{ one.title }}</small>
            </li>
          </ol>
          <p>
            After them {{ plan.left.length }} findings are left, {{ grave }} of them dangers or
            faults that want a decision.
          </p>
        </template>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Repair nothing</v-btn>
        <v-btn
          color="secondary"
          variant="flat"
          :disabled="!plan?.change || schemes.busy"
          @click="keep"
        >
          Make {{ plan?.repairs.length ?? 0 }} repairs
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sum {
  font-size: 1.12rem;
  font-weight: 700;
  margin-top: 8px;
}
ol {
  padding-left: 26px;
  margin: 6px 0 10px;
}
li {
  margin-bottom: 5px;
  line-height: 1.2;
}
small {
  display: block;
}
</style>
