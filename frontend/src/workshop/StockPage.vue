<script setup lang="ts">
/** What the workshop keeps: sizes with their true area, insulation and price; device types. */
import { mdiArrowLeft } from "@mdi/js";
import { computed, onMounted, ref } from "vue";
import { useRouter } from "vue-router";

import { api, ProblemError, unwrap, type Schemas } from "@/api/client";
import LightSwitch from "@/app/LightSwitch.vue";
import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { CHOICES } from "@/parts/kinds";
import { readNumber, writeNumber } from "@/shared/fields/numbers";

import ReelsSection from "./ReelsSection.vue";

type Cable = Schemas["StockCable"];
const notices = useNotices();
const router = useRouter();
const open = useOpenJob();
const schemes = useScheme();
const kept = ref<Schemas["StockOut"] | null>(null);
const cables = ref<Cable[]>([]);
const devices = ref<Map<string, Set<number>>>(new Map());
const currency = ref("");
const reels = ref<Schemas["Reel"][]>([]);
const hourPrice = ref<number | null>(null);
const wrong = ref<string[]>([]);
const dirty = ref(false);

const sizes = computed(() => kept.value?.sizes ?? []);
const has = (size: string) => cables.value.find((c) => c.gauge === size);

function take(answer: Schemas["StockOut"]) {
  kept.value = answer;
  cables.value = answer.stock.cables.map((c) => ({ ...c }));
  devices.value = new Map(answer.stock.devices.map((d) => [d.device, new Set(d.ratings_a)]));
  currency.value = answer.stock.currency ?? "";
  reels.value = answer.stock.reels.map((reel) => ({ ...reel }));
  hourPrice.value = answer.stock.hour_price ?? null;
  dirty.value = false;
  wrong.value = [];
}

onMounted(async () => {
  try {
    take(await unwrap(api.GET("/api/stock")));
  } catch (error) {
    notices.failed(error);
  }
});

function toggle(size: string) {
  cables.value = has(size)
    ? cables.value.filter((c) => c.gauge !== size)
    : [...cables.value, { gauge: size, insulation_c: 105, copper_mm2: null, price_per_m: null }];
  dirty.value = true;
}

function set(size: string, field: "copper_mm2" | "price_per_m", event: Event) {
  const input = event.target as HTMLInputElement;
  const read = readNumber(input.value);
  if ("wrong" in read) {
    wrong.value = [`${size}: ${read.wrong}`];
    return;
  }
  cables.value = cables.value.map((c) => (c.gauge === size ? { ...c, [field]: read.value } : c));
  dirty.value = true;
}

function insulate(size: string, event: Event) {
  const insulation_c = Number((event.target as HTMLSelectElement).value);
  cables.value = cables.value.map((c) =>
    c.gauge === size ? { ...c, insulation_c: insulation_c as Cable["insulation_c"] } : c,
  );
  dirty.value = true;
}

function toggleRating(device: string, rating: number) {
  const next = new Map(devices.value);
  const ratings = new Set(next.get(device));
  if (!ratings.delete(rating)) ratings.add(rating);
  if (ratings.size) next.set(device, ratings);
  else next.delete(device);
  devices.value = next;
  dirty.value = true;
}

function toggleDevice(kind: Schemas["DeviceType"]) {
  const next = new Map(devices.value);
  if (!next.delete(kind.type)) next.set(kind.type, new Set(kind.ratings_a));
  devices.value = next;
  dirty.value = true;
}

async function keep() {
  const stock = {
    cables: cables.value,
    devices: [...devices.value].map(([device, ratings]) => ({
      device,
      ratings_a: [...ratings].sort((a, b) => a - b),
      price: kept.value?.stock.devices.find((d) => d.device === device)?.price ?? null,
    })),
    currency: currency.value,
    reels: reels.value,
    gear: kept.value?.stock.gear ?? [],
    hour_price: hourPrice.value,
    version: kept.value?.stock.version ?? 1,
  };
  if (await put(stock)) notices.said("The stock is kept: sizes are chosen from it from now on.");
}

const usual = () => put(null);

/** Keep another stock in place of the one that is shown here; null is every usual size. */
async function put(stock: Schemas["StockIn"]["stock"]): Promise<boolean> {
  const body = { base_revision: kept.value?.revision ?? 1, stock };
  try {
    take(await unwrap(api.PUT("/api/stock", { body })));
    await recompute();
    return true;
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    const { errors, detail } = error.problem;
    wrong.value = errors.length ? errors.map((e) => `${e.path}: ${e.message}`) : [detail];
    return false;
  }
}

/** An open job is worked out anew with what is in stock now. */
async function recompute() {
  schemes.runs = null;
  if (open.ids.variant) await schemes.open(open.ids.variant);
}
</script>

<template>
  <v-app-bar color="bar" density="compact" flat>
    <v-btn :icon="mdiArrowLeft" size="small" aria-label="Back" @click="router.back()" />
    <strong class="ml-2">Stock of the workshop</strong>
    <v-spacer />
    <LightSwitch />
  </v-app-bar>
  <v-main class="main">
    <div v-if="kept" class="stock">
      <p>
        Sizes and devices are chosen from what is ticked here.
        {{
          kept.own ? "This is your own stock." : "Nothing has been kept yet: all usual AWG sizes."
        }}
      </p>
      <ul v-if="wrong.length" class="text-error">
        <li v-for="line in wrong" :key="line">▲ {{ line }}</li>
      </ul>
      <div class="acts">
        <v-btn color="secondary" variant="flat" :disabled="!dirty" @click="keep">
          Keep this stock
        </v-btn>
        <v-btn variant="outlined" :disabled="!kept.own" @click="usual">Back to the usual</v-btn>
        <label>
          Currency
          <input v-model="currency" maxlength="8" @change="dirty = true" />
        </label>
      </div>
      <div class="halves">
        <section>
          <h2>Cable</h2>
          <table>
            <thead>
              <tr>
                <th scope="col">Size</th>
                <th scope="col">Nominal</th>
                <th scope="col">True area <small>mm²</small></th>
                <th scope="col">Insulation</th>
                <th scope="col">Price <small>a metre</small></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="size in sizes" :key="size" :class="{ off: !has(size) }">
                <th scope="row">
                  <label>
                    <input type="checkbox" :checked="!!has(size)" @change="toggle(size)" />
                    {{ size }}
                  </label>
                </th>
                <td>{{ kept.areas_mm2[size] }} mm²</td>
                <template v-if="has(size)">
                  <td>
                    <input
                      :value="writeNumber(has(size)?.copper_mm2)"
                      inputmode="decimal"
                      placeholder="nominal"
                      :aria-label="`True area of ${size} in mm²`"
                      @change="set(size, 'copper_mm2', $event)"
                    />
                  </td>
                  <td>
                    <select
                      :value="has(size)?.insulation_c"
                      :aria-label="`Insulation of ${size}`"
                      @change="insulate(size, $event)"
                    >
                      <option v-for="c in CHOICES.insulation_c" :key="c.value" :value="c.value">
                        {{ c.title }}
                      </option>
                    </select>
                  </td>
                  <td>
                    <input
                      :value="writeNumber(has(size)?.price_per_m)"
                      inputmode="decimal"
                      :aria-label="`Price of ${size} a metre`"
                      @change="set(size, 'price_per_m', $event)"
                    />
                  </td>
                </template>
                <td v-else colspan="3">not kept</td>
              </tr>
            </tbody>
          </table>
        </section>
        <ReelsSection
          v-model="reels"
          :sizes="sizes"
          @change="dirty = true"
          @wrong="wrong = $event"
        />
        <section>
          <h2>Fuses and breakers</h2>
          <article v-for="kind in kept.devices" :key="kind.type" class="device">
            <label>
              <input
                type="checkbox"
                :checked="devices.has(kind.type)"
                @change="toggleDevice(kind)"
              />
              <strong>{{ kind.label }}</strong>
            </label>
            <small>
              up to {{ kind.max_v }} V; breaks
              {{ kind.interrupting.map((i) => `${i.amps} A at ${i.up_to_v} V`).join(", ") }};
              {{ kind.usual_place }}
            </small>
            <div v-if="devices.has(kind.type)" class="ratings">
              <button
                v-for="rating in kind.ratings_a"
                :key="rating"
                type="button"
                :aria-pressed="devices.get(kind.type)?.has(rating)"
                :class="{ on: devices.get(kind.type)?.has(rating) }"
                @click="toggleRating(kind.type, rating)"
              >
                {{ rating }} A
              </button>
            </div>
          </article>
          <p class="note">
            Typical figures of generic types; the listing of the device in hand decides.
          </p>
        </section>
      </div>
    </div>
  </v-main>
</template>

<style scoped>
.main {
  height: 100dvh;
}
.stock {
  height: 100%;
  overflow: auto;
  padding: 10px 16px 40px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  margin: 8px 0;
}
.halves {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 30px;
}
.halves section {
  flex: 1 1 460px;
  min-width: 0;
  overflow-x: auto;
}
h2 {
  font-size: 1.12rem;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 1px 6px;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.15);
}
th small {
  font-weight: 400;
}
th label,
.device label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 40px;
  white-space: nowrap;
}
input[type="checkbox"] {
  width: 20px;
  height: 20px;
}
td input,
td select,
.acts input {
  width: 92px;
  height: 36px;
  padding: 0 6px;
  font: inherit;
  color: rgb(var(--v-theme-on-surface));
  background: rgb(var(--v-theme-surface));
  border: 1px solid rgb(var(--v-theme-ink), 0.3);
  border-radius: 6px;
}
.off {
  opacity: 0.72;
}
.device {
  padding: 2px 0 8px;
  border-bottom: 1px solid rgb(var(--v-theme-ink), 0.15);
}
.device small {
  display: block;
  line-height: 1.2;
}
.ratings {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  margin-top: 5px;
}
.ratings button {
  min-height: 34px;
  padding: 0 9px;
  border: 1.5px solid rgb(var(--v-theme-ink), 0.35);
  border-radius: 99px;
  color: inherit;
}
.ratings .on {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-on-primary));
}
.note {
  font-size: 0.86rem;
}
</style>
