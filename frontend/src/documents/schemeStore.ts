/** A variant as it is saved, and as surveyed: design, drawings, findings; every change to it. */
import { defineStore } from "pinia";
import { computed, shallowRef } from "vue";

import { api, told, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";

import { useSaved, type Ways } from "./saved";

export type Scheme = Schemas["SchemeOut"];
export type Part = Scheme["design"]["components"][number];

export const useScheme = defineStore("scheme", () => {
  const notices = useNotices();
  const findings = shallowRef<Schemas["FindingsOut"] | null>(null);
  /** The stage Runs as the last change of cables left it. */
  const runs = shallowRef<Schemas["RunsOut"] | null>(null);
  /** Findings that nobody has waived: those that count. */
  const counting = computed(() => {
    const standing = findings.value?.waivers.filter((w) => !w.lapsed) ?? [];
    const waived = new Set(standing.map((w) => w.finding));
    return (findings.value?.findings ?? []).filter((f) => !waived.has(f.key));
  });
  let variant = "";
  const at = () => ({ path: { variant_id: variant } });

  const ways: Ways<Scheme> = {
    read: () => told(api.GET("/api/variants/{variant_id}/scheme", { params: at() })),
    change: (base, what) =>
      told(
        api.POST("/api/variants/{variant_id}/changes", {
          params: at(),
          body: { base_revision: base, change: what },
        }),
      ),
    undo: (base) =>
      told(
        api.POST("/api/variants/{variant_id}/undo", {
          params: at(),
          body: { base_revision: base },
        }),
      ),
    redo: (base) =>
      told(
        api.POST("/api/variants/{variant_id}/redo", {
          params: at(),
          body: { base_revision: base },
        }),
      ),
    restore: (base, revision) =>
      told(
        api.POST("/api/variants/{variant_id}/restore", {
          params: at(),
          body: { base_revision: base, revision },
        }),
      ),
    history: () => told(api.GET("/api/variants/{variant_id}/revisions", { params: at() })),
  };
  const document = useSaved(ways);
  const scheme = document.saved;
  const parts = computed<Part[]>(() => scheme.value?.design.components ?? []);

  async function open(id: string) {
    variant = id;
    scheme.value = null;
    findings.value = null;
    scheme.value = await ways.read();
    await loadFindings();
  }

  /** Read it anew: the survey has changed under it. */
  async function refresh() {
    const asked = variant;
    try {
      const read = await ways.read();
      if (asked !== variant || read.revision < (scheme.value?.revision ?? 0)) return;
      scheme.value = read;
      await loadFindings();
    } catch (error) {
      notices.failed(error);
    }
  }

  /** Findings of the newest version; an answer that comes late for an older one is left. */
  async function loadFindings() {
    try {
      const found = await told(api.GET("/api/variants/{variant_id}/findings", { params: at() }));
      if (found.revision === scheme.value?.revision) findings.value = found;
    } catch (error) {
      notices.failed(error);
    }
  }

  async function andFindings(done: Promise<boolean>): Promise<boolean> {
    const saved = await done;
    if (saved) void loadFindings();
    return saved;
  }

  /** Put in a part found aboard, landed where it usually is. */
  function addFound(part: Omit<Schemas["FoundIn"], "base_revision">) {
    return andFindings(
      document.write((base) =>
        told(
          api.POST("/api/variants/{variant_id}/found", {
            params: at(),
            body: { ...part, base_revision: base },
          }),
        ),
      ),
    );
  }

  /** An edit that the engine works out: put in, swap, gather. */
  function edit(what: Omit<Schemas["EditIn"], "base_revision">) {
    return andFindings(
      document.write((base) =>
        told(
          api.POST("/api/variants/{variant_id}/edit", {
            params: at(),
            body: { ...what, base_revision: base },
          }),
        ),
      ),
    );
  }

  /** Rewire it as a pattern. */
  function applyPattern(pattern: string) {
    return andFindings(
      document.write((base) =>
        told(
          api.POST("/api/variants/{variant_id}/pattern", {
            params: at(),
            body: { pattern, base_revision: base },
          }),
        ),
      ),
    );
  }

  /** New figures of cables: what follows from them comes back at once; the drawing stays. */
  async function setCables(rows: Schemas["CableFields"][]): Promise<boolean> {
    return document.write(async (base) => {
      const answer = await told(
        api.POST("/api/variants/{variant_id}/cables", {
          params: at(),
          body: { base_revision: base, rows: rows.map((row) => ({ ...row })) },
        }),
      );
      const { runs: report, findings: found, ...saved } = answer;
      runs.value = report;
      findings.value = found;
      return { ...(scheme.value as Scheme), ...saved };
    });
  }

  async function waive(finding: string, reason: string): Promise<boolean> {
    return counted(() =>
      told(
        api.POST("/api/variants/{variant_id}/waivers", {
          params: at(),
          body: { finding, reason },
        }),
      ),
    );
  }

  async function withdraw(waiver: string): Promise<boolean> {
    const params = { path: { variant_id: variant, waiver_id: waiver } };
    return counted(() =>
      told(api.DELETE("/api/variants/{variant_id}/waivers/{waiver_id}", { params })),
    );
  }

  async function counted(ask: () => Promise<Schemas["FindingsOut"]>): Promise<boolean> {
    try {
      findings.value = await ask();
      return true;
    } catch (error) {
      notices.failed(error);
      return false;
    }
  }

  async function landing(cable: string, end: "start" | "end") {
    const params = { ...at(), query: { cable, end } };
    const found = await told(api.GET("/api/variants/{variant_id}/landing", { params }));
    return found.posts;
  }

  async function joinable(post: string) {
    const params = { ...at(), query: { post } };
    const found = await told(api.GET("/api/variants/{variant_id}/joinable", { params }));
    return found.posts;
  }

  return {
    scheme,
    parts,
    findings,
    counting,
    runs,
    conflict: document.conflict,
    busy: document.busy,
    open,
    refresh,
    change: (what: Record<string, unknown>) => andFindings(document.change(what)),
    undo: () => andFindings(document.undo()),
    redo: () => andFindings(document.redo()),
    restore: (revision: number) => andFindings(document.restore(revision)),
    settle: async (mine: boolean) => {
      await document.settle(mine);
      await loadFindings();
    },
    history: ways.history,
    addFound,
    edit,
    applyPattern,
    setCables,
    waive,
    withdraw,
    landing,
    joinable,
  };
});
