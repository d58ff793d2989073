/** The screen stays awake while hands are busy: in steps, tests, scenes. */
import { useWakeLock } from "@vueuse/core";
import { onBeforeUnmount, onMounted } from "vue";

export function useAwake() {
  const lock = useWakeLock();
  onMounted(() => void lock.request("screen").catch(() => undefined)); // not where it is refused
  onBeforeUnmount(() => void lock.release().catch(() => undefined));
}
