/** The service worker: keeps the program on the device, and offers a newer one, never forces it. */
import { ref } from "vue";

/** A newer version waits; calling it loads that. */
export const newer = ref<(() => void) | null>(null);
export const PHOTOS = "strom-photos";

export async function startWorker() {
  if (!("serviceWorker" in navigator) || import.meta.env.DEV) return;
  const { Workbox } = await import("workbox-window");
  const worker = new Workbox("/sw.js", { scope: "/" });
  worker.addEventListener("waiting", () => {
    newer.value = () => {
      worker.addEventListener("controlling", () => globalThis.location.reload());
      worker.messageSkipWaiting();
    };
  });
  await worker.register().catch(() => undefined);
}

/** Photographs of the one who signs out go with them. */
export async function forgetPhotos() {
  if ("caches" in globalThis) await caches.delete(PHOTOS);
}
