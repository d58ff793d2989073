/** Who is signed in. */
import { defineStore } from "pinia";
import { computed, ref, watch } from "vue";

import { wipe } from "@/aboard/device";
import { forgetPhotos } from "@/aboard/worker";
import { api, isUnknown, onSessionEnd, unwrap, type Schemas } from "@/api/client";
import { away } from "@/api/connection";
import { formats } from "@/shared/formats";

const KNOWN = "strom.session";

function known(): Schemas["SessionOut"] | null {
  return JSON.parse(localStorage.getItem(KNOWN) ?? "null") as Schemas["SessionOut"] | null;
}

export const useSession = defineStore("session", () => {
  const session = ref<Schemas["SessionOut"] | null>(null);

  /** Who is signed in; where no answer comes, who was, so that what is aboard can be read. */
  async function load() {
    try {
      session.value = await unwrap(api.GET("/api/session"));
    } catch (error) {
      const before = isUnknown(error) ? known() : null;
      if (!before) throw error;
      session.value = before;
      away.value = true;
    }
  }
  watch(session, (now) => {
    if (now?.formats) formats.value = now.formats;
    if (!now?.signed_in) return;
    // Photographs are kept for one person at a time: another one begins with none.
    const before = known();
    if (before && before.username !== now.username) void forgetPhotos();
    localStorage.setItem(KNOWN, JSON.stringify(now));
  });
  async function enterDemo() {
    session.value = await unwrap(api.POST("/api/session/demo"));
  }
  /** Sign in; false where the password is right and a code of the second factor is asked for. */
  async function signIn(username: string, password: string, code = ""): Promise<boolean> {
    const body = { username, password, code };
    const answer = await unwrap(api.POST("/api/session", { body }));
    if (answer.code_wanted) return false;
    session.value = answer;
    return true;
  }
  const mayWrite = computed(() => session.value?.role !== "reader");
  /** Sign out: what was taken aboard goes from this device. */
  async function signOut() {
    const name = session.value?.username ?? "";
    session.value = await unwrap(api.DELETE("/api/session"));
    localStorage.removeItem(KNOWN);
    await Promise.all([wipe(name), forgetPhotos()]);
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

  return { session, ended, mayWrite, load, enterDemo, signIn, signOut, goOn };
});
