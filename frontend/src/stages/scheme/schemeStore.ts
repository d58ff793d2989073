/** A variant as it is saved: design, drawings, findings; and every change to it. */
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";

import { api, ProblemError, told, type Problem, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";

export type Scheme = Schemas["SchemeOut"];
export type Change = Record<string, unknown>;

export const useScheme = defineStore("scheme", () => {
  const notices = useNotices();
  const scheme = shallowRef<Scheme | null>(null);
  const findings = shallowRef<Schemas["FindingsOut"] | null>(null);
  const conflict = ref<Problem | null>(null);
  const busy = ref(false);
  const path = computed(() => ({ path: { variant_id: scheme.value?.variant ?? "" } }));

  async function open(variant: string) {
    scheme.value = null;
    findings.value = null;
    const params = { path: { variant_id: variant } };
    scheme.value = await told(api.GET("/api/variants/{variant_id}/scheme", { params }));
    await loadFindings();
  }

  /** Findings of the newest version; an answer that comes late for an older one is left. */
  async function loadFindings() {
    try {
      const params = path.value;
      const found = await told(api.GET("/api/variants/{variant_id}/findings", { params }));
      if (found.revision === scheme.value?.revision) findings.value = found;
    } catch (error) {
      notices.failed(error);
    }
  }

  let queue: Promise<unknown> = Promise.resolve();

  /** Send a write once the ones before it are answered: none is dropped, none overtakes. */
  function write(request: (base: number) => Promise<Scheme>): Promise<boolean> {
    const mine = queue.then(() => writeNow(request));
    queue = mine;
    return mine;
  }

  /** Send a write; what comes back is the variant as it is saved now. */
  async function writeNow(request: (base: number) => Promise<Scheme>): Promise<boolean> {
    if (!scheme.value) return false;
    busy.value = true;
    try {
      scheme.value = await request(scheme.value.revision);
      void loadFindings();
      return true;
    } catch (error) {
      if (error instanceof ProblemError && error.problem.status === 409) {
        conflict.value = error.problem;
      } else {
        notices.failed(error);
      }
      return false;
    } finally {
      busy.value = false;
    }
  }

  function change(what: Change) {
    return write((base) =>
      told(
        api.POST("/api/variants/{variant_id}/changes", {
          params: path.value,
          body: { base_revision: base, change: what },
        }),
      ),
    );
  }

  function undo() {
    const params = path.value;
    return write((base) =>
      told(api.POST("/api/variants/{variant_id}/undo", { params, body: { base_revision: base } })),
    );
  }

  function redo() {
    const params = path.value;
    return write((base) =>
      told(api.POST("/api/variants/{variant_id}/redo", { params, body: { base_revision: base } })),
    );
  }

  function restore(revision: number) {
    return write((base) =>
      told(
        api.POST("/api/variants/{variant_id}/restore", {
          params: path.value,
          body: { base_revision: base, revision },
        }),
      ),
    );
  }

  function history() {
    return told(api.GET("/api/variants/{variant_id}/revisions", { params: path.value }));
  }

  async function landing(cable: string, end: "start" | "end") {
    const params = { ...path.value, query: { cable, end } };
    const found = await told(api.GET("/api/variants/{variant_id}/landing", { params }));
    return found.posts;
  }

  /** After a clash: look at what is saved now, or put the version kept aside in its place. */
  async function settle(mine: boolean) {
    const kept = conflict.value?.kept_revision;
    conflict.value = null;
    if (!scheme.value) return;
    await open(scheme.value.variant);
    if (mine && kept) await restore(kept);
  }

  return {
    scheme,
    findings,
    conflict,
    busy,
    open,
    change,
    undo,
    redo,
    restore,
    history,
    landing,
    settle,
  };
});
