/** Which of the three lights is on; kept on this device. */
import { defineStore } from "pinia";
import { ref } from "vue";

import { vuetify } from "./theme";

export const LIGHTS = ["day", "dusk", "night"] as const;
export type Light = (typeof LIGHTS)[number];

const KEY = "strom.light";

export const useLight = defineStore("light", () => {
  const kept = LIGHTS.find((name) => name === localStorage.getItem(KEY)) ?? "day";
  const light = ref<Light>(kept);
  vuetify.theme.change(kept);

  function choose(name: Light) {
    light.value = name;
    localStorage.setItem(KEY, name);
    vuetify.theme.change(name);
  }

  return { light, choose };
});
