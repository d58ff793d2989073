/** What is picked on the drawing, and a cable's end on its way to another post. */
import { defineStore } from "pinia";
import { ref, watch } from "vue";

import { useNotices } from "@/app/notices";

import { useScheme } from "@/documents/schemeStore";

export interface Moving {
  cable: string;
  end: "start" | "end";
  posts: string[];
  parked: boolean;
}

export const usePicking = defineStore("picking", () => {
  const schemes = useScheme();
  const notices = useNotices();
  const picked = ref<{ kind: "cable" | "part"; id: string } | null>(null);
  const moving = ref<Moving | null>(null);
  const side = ref<"pos" | "neg">("pos");

  function pick(kind: "cable" | "part", id: string) {
    moving.value = null;
    picked.value = { kind, id };
  }

  function drop() {
    if (moving.value) moving.value = null;
    else picked.value = null;
  }

  async function startMove(cable: string, end: "start" | "end", parked = false) {
    try {
      moving.value = { cable, end, posts: await schemes.landing(cable, end), parked };
    } catch (error) {
      notices.failed(error);
    }
  }

  async function moveTo(post: string) {
    if (!moving.value) return;
    const { cable, end, parked } = moving.value;
    moving.value = null;
    const type = parked ? "land_parked" : "move_cable_end";
    if (await schemes.change({ type, cable, end, to: post })) {
      notices.said(schemes.scheme?.can_undo ?? "Moved");
    }
  }

  // What is no longer in the design cannot stay picked.
  watch(
    () => schemes.scheme,
    (scheme) => {
      const at = picked.value;
      if (!at || !scheme) return;
      const list = at.kind === "cable" ? scheme.design.cables : scheme.design.components;
      if (!list.some((item) => item.id === at.id)) picked.value = null;
    },
  );

  return { picked, moving, side, pick, drop, startMove, moveTo };
});
