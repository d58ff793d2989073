/** The bench: conditions as the tray sets them, and what the server computes for them. */
import { defineStore } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";

import { useScheme } from "@/documents/schemeStore";

export type State = Schemas["State"];
export type BenchResult = Schemas["BenchOut"];

const ORDER = ["selector", "dual_switch", "switch", "inverter", "breaker"];

function atRest(): State {
  return {
    engine: "off",
    rpm: 1400,
    cranking: false,
    second_engine: "as_first",
    second_cranking: false,
    shore: false,
    sun: 0.4,
    wind_kn: 0,
    boat_kn: 0,
    profile: null,
    running: [],
    positions: {},
    previous_states: {},
    soc: {},
  };
}

/** A boat as the bench begins with her: at rest, with her first profile of loads. */
export function asItBegins(profiles: { id: string }[] | undefined): State {
  return { ...atRest(), profile: profiles?.[0]?.id ?? null };
}

export const useBench = defineStore("bench", () => {
  const schemes = useScheme();
  const notices = useNotices();
  const state = ref<State>(atRest());
  const result = shallowRef<BenchResult | null>(null);
  // Switches that join banks stand first: they are turned most.
  const switches = computed(() =>
    [...(schemes.scheme?.switches ?? [])].sort(
      (a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind),
    ),
  );
  let running = false;
  let again = false;

  /** Solve the newest conditions; what changes meanwhile is solved when the answer is there. */
  async function run() {
    if (running) {
      again = true;
      return;
    }
    running = true;
    try {
      do {
        again = false;
        await solve();
      } while (again);
    } finally {
      running = false;
    }
  }

  /** The conditions without what the design no longer has: a swapped switch, a bank taken out. */
  function known(now: State): State {
    const ids = new Set(schemes.scheme?.design.components.map((part) => part.id));
    const there = <T>(of: Record<string, T> | undefined) =>
      Object.fromEntries(Object.entries(of ?? {}).filter(([id]) => ids.has(id)));
    return {
      ...now,
      positions: asTurned(now.positions),
      previous_states: there(now.previous_states),
      soc: there(now.soc),
      running: now.running?.filter((ref) => ids.has(ref.split(".")[0] ?? "")),
    };
  }

  /** Positions that differ from those drawn: the same state is asked for in one way only. */
  function asTurned(positions: State["positions"]): Record<string, string> {
    const drawn = new Map((schemes.scheme?.switches ?? []).map((s) => [s.id, s.position]));
    return Object.fromEntries(
      Object.entries(positions ?? {}).filter(([id, to]) => drawn.has(id) && drawn.get(id) !== to),
    );
  }

  async function solve() {
    const scheme = schemes.scheme;
    if (!scheme) return;
    const params = { path: { variant_id: scheme.variant } };
    try {
      const found = await unwrap(
        api.POST("/api/variants/{variant_id}/bench", { params, body: known(state.value) }),
      );
      if (found.revision !== schemes.scheme?.revision) return;
      result.value = found;
      const { relays, converters, contacts } = found.point;
      const standing = { ...relays, ...converters, ...contacts };
      for (const [name, relay] of Object.entries(standing)) {
        state.value.previous_states = {
          ...state.value.previous_states,
          [name]: ("closed" in relay ? relay.closed : relay.verdict === "closed")
            ? "closed"
            : "open",
        };
      }
    } catch (error) {
      result.value = null;
      notices.failed(error);
    }
  }

  function set(part: Partial<State>) {
    state.value = { ...state.value, ...part };
    void run();
  }

  function turn(name: string, position: string) {
    set({ positions: { ...state.value.positions, [name]: position } });
  }

  /** Turn a switch one position on or back, as far as it goes round. */
  function step(name: string, by: 1 | -1) {
    const part = switches.value.find((s) => s.id === name);
    if (!part) return;
    const count = part.positions.length;
    const at = part.positions.indexOf(positionOf(name));
    turn(name, part.positions[(at + by + count) % count] ?? part.position);
  }

  function positionOf(name: string): string {
    const part = switches.value.find((s) => s.id === name);
    return state.value.positions?.[name] ?? part?.position ?? "off";
  }

  function setCharge(bank: string, soc: number) {
    set({ soc: { ...state.value.soc, [bank]: soc } });
  }

  watch(
    () => schemes.scheme,
    (scheme, before) => {
      if (!scheme) {
        result.value = null;
        return;
      }
      if (scheme.variant !== before?.variant) {
        state.value = asItBegins(scheme.design.profiles);
      }
      void run();
    },
    { immediate: true },
  );

  return { state, result, switches, run, set, turn, step, positionOf, setCharge };
});
