/** Who is signed in. */
import { defineStore } from "pinia";
import { ref } from "vue";

import { api, told, type Schemas } from "@/api/client";

export const useSession = defineStore("session", () => {
  const session = ref<Schemas["SessionOut"] | null>(null);

  async function load() {
    session.value = await told(api.GET("/api/session"));
  }
  async function enterDemo() {
    session.value = await told(api.POST("/api/session/demo"));
  }
  async function signIn(username: string, password: string) {
    session.value = await told(api.POST("/api/session", { body: { username, password } }));
  }
  async function signOut() {
    session.value = await told(api.DELETE("/api/session"));
  }

  return { session, load, enterDemo, signIn, signOut };
});
