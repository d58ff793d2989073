<script setup lang="ts">
/** A boat entered in a minute: its kind gives usual figures, every one marked as assumed. */
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import FormDialog from "@/shared/FormDialog.vue";
import ChoiceButtons from "@/shared/fields/ChoiceButtons.vue";
import { length } from "@/shared/units";

const shown = defineModel<boolean>({ required: true });
const notices = useNotices();
const router = useRouter();
const kinds = ref<Schemas["Choices"]["boat_kinds"]>([]);
const name = ref("");
const kind = ref<string | null>(null);
const switching = ref<Schemas["NewJobIn"]["switching"]>("selector");
const busy = ref(false);
const ways = computed(() => kinds.value.find((k) => k.kind === kind.value)?.switchings ?? []);
const kindChoices = computed(() =>
  kinds.value.map((k) => ({ id: k.kind, words: k.label, small: length(k.length_m) })),
);

watch(ways, (offered) => {
  if (!offered.some((way) => way.id === switching.value)) {
    switching.value = offered[0]?.id ?? "none";
  }
});

watch(shown, async (open) => {
  if (!open || kinds.value.length) return;
  try {
    kinds.value = (await unwrap(api.GET("/api/choices"))).boat_kinds;
  } catch (error) {
    notices.failed(error);
  }
});

async function enter() {
  if (!kind.value) return;
  busy.value = true;
  try {
    const body = { name: name.value, kind: kind.value, switching: switching.value };
    const job = await unwrap(api.POST("/api/jobs", { body }));
    const variantId = job.variants[0]?.id;
    await router.push({ name: "survey", params: { jobId: job.id, variantId } });
  } catch (error) {
    notices.failed(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormDialog
    :open="shown"
    title="New boat"
    confirm="Start the survey"
    leave="Leave it"
    :ready="!!name.trim() && !!kind"
    :busy="busy"
    :width="640"
    @confirm="enter"
    @close="shown = false"
  >
    <v-text-field
      v-model="name"
      class="mt-2"
      label="Name of the boat"
      maxlength="60"
      autofocus
      required
    />
    <h3>What kind is she?</h3>
    <ChoiceButtons
      label="What kind is she?"
      :choices="kindChoices"
      :value="kind"
      wide
      @choose="kind = $event"
    />
    <h3 v-if="ways.length">How are her batteries switched?</h3>
    <ChoiceButtons
      v-if="ways.length"
      label="How are her batteries switched?"
      :choices="ways"
      :value="switching"
      wide
      @choose="switching = $event"
    />
    <p>
      Usual figures are put in and marked as assumed; everything can be changed, and what nobody
      knows is listed to find out.
    </p>
  </FormDialog>
</template>

<style scoped>
h3 {
  font-size: 1.05rem;
  margin: 6px 0;
}
</style>
