/** Who is signed in. */
import { defineStore } from "pinia";
import { ref } from "vue";

import { api, onSessionEnd, unwrap, type Schemas } from "@/api/client";

export const useSession = defineStore("session", () => {
  const session = ref<Schemas["SessionOut"] | null>(null);

  async function load() {
    session.value = await unwrap(api.GET("/api/session"));
  }
  async function enterDemo() {
    session.value = await unwrap(api.POST("/api/session/demo"));
  }
  async function signIn(username: string, password: string) {
    session.value = await unwrap(api.POST("/api/session", { body: { username, password } }));
  }
  async function signOut() {
    session.value = await unwrap(api.DELETE("/api/session"));
  }

  /** The session ended in the middle of the work: everybody who waits goes on with the answer. */
  const ended = ref(false);
  let going: ((signedIn: boolean) => void)[] = [];
  onSessionEnd(() => {
    if (!session.value?.signed_in) return Promise.resolve(false);
    ended.value = true;
    return new Promise((go) => going.push(go));
  });
  function goOn(signedIn: boolean) {
    ended.value = false;
    const all = going;
    going = [];
    all.forEach((go) => go(signedIn));
  }

  return { session, ended, load, enterDemo, signIn, signOut, goOn };
});
