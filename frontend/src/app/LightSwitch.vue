<script setup lang="ts">
import { mdiBrightness4, mdiWeatherNight, mdiWhiteBalanceSunny } from "@mdi/js";

import { LIGHTS, useLight } from "./light";

const store = useLight();
const icons = { day: mdiWhiteBalanceSunny, dusk: mdiBrightness4, night: mdiWeatherNight };
const words = { day: "Day light", dusk: "Dusk light", night: "Night light" };
</script>

<template>
  <div class="lights" role="group" aria-label="Light">
    <v-btn
      v-for="name in LIGHTS"
      :key="name"
      :icon="icons[name]"
      :aria-label="words[name]"
      :aria-pressed="store.light === name"
      :title="words[name]"
      :variant="store.light === name ? 'outlined' : 'text'"
      size="small"
      @click="store.choose(name)"
    />
  </div>
</template>

<style scoped>
.lights {
  display: flex;
}
</style>
