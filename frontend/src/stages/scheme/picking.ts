/** What is picked on the drawing, and a cable's end on its way to another post. */
import { defineStore } from "pinia";
import { ref, watch } from "vue";

import { useNotices } from "@/app/notices";

import type { Schemas } from "@/api/client";
import type { DesignChange } from "@/documents/saved";
import { useScheme } from "@/documents/schemeStore";
import { freeId } from "@/shared/ids";

/** What a new cable is until its run is measured and sized. */
/** A new cable; what is not told stands as usual in the engine. */
const NEW_CABLE = { gauge: "6 AWG", length_m: 1.5, estimated: true } as Schemas["Cable"];

export interface Moving {
  cable: string;
  end: "start" | "end";
  posts: string[];
  parked: boolean;
  /** The post that a new cable starts from. */
  from?: string;
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

  /** A new cable from a post, to be landed like an end that is moved. */
  async function startCable(from: string) {
    try {
      const posts = await schemes.joinable(from);
      const { cables, parked = [] } = schemes.scheme?.design ?? { cables: [] };
      const taken = [...cables, ...parked].map((c) => c.id);
      moving.value = { cable: freeId("new cable", taken), end: "end", posts, parked: false, from };
    } catch (error) {
      notices.failed(error);
    }
  }

  async function moveTo(post: string) {
    if (!moving.value) return;
    const { cable, end, parked, from } = moving.value;
    moving.value = null;
    const type = parked ? "land_parked" : "move_cable_end";
    const change: DesignChange = from
      ? { type: "add_cable", cable: { ...NEW_CABLE, id: cable, start: from, end: post } }
      : { type, cable, end, to: post };
    if (await schemes.change(change)) {
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

  return { picked, moving, side, pick, drop, startMove, startCable, moveTo };
});
