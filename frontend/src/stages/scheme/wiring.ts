/** What can be done with what is picked, and the edits that the engine works out. */
import { defineStore } from "pinia";
import { ref, shallowRef, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import type { DesignChange } from "@/documents/saved";
import { useScheme } from "@/documents/schemeStore";

import { usePicking } from "./picking";

export type Edit = Schemas["EditIn"]["edit"];
type Edits = Schemas["EditsOut"];

export const useWiring = defineStore("wiring", () => {
  const schemes = useScheme();
  const picking = usePicking();
  const notices = useNotices();
  const edits = shallowRef<Edits | null>(null);
  const asking = ref(false);

  async function load() {
    const at = picking.picked;
    const scheme = schemes.scheme;
    edits.value = null;
    if (!at || !scheme) return;
    const query = at.kind === "cable" ? { cable: at.id } : { part: at.id };
    const params = { path: { variant_id: scheme.variant }, query };
    try {
      const found = await unwrap(api.GET("/api/variants/{variant_id}/edits", { params }));
      if (picking.picked?.id === at.id) edits.value = found;
    } catch (error) {
      notices.failed(error);
    }
  }

  async function edit(what: Edit, at: string, kind: string): Promise<boolean> {
    asking.value = true;
    const done = await schemes.edit({ edit: what, at, kind });
    asking.value = false;
    if (done) notices.said(schemes.scheme?.can_undo ?? "Done");
    return done;
  }

  async function change(what: DesignChange): Promise<boolean> {
    const done = await schemes.change(what);
    if (done) notices.said(schemes.scheme?.can_undo ?? "Done");
    return done;
  }

  watch([() => picking.picked, () => schemes.scheme?.revision], load, { immediate: true });

  return { edits, asking, edit, change };
});
