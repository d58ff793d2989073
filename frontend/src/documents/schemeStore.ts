/** A variant as it is saved, and as surveyed: design, drawings, findings; every change to it. */
import { defineStore } from "pinia";
import { computed, shallowRef } from "vue";

import { api, ProblemError, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";

import { partsWithEntries } from "./overlay";
import { useSaved, type DesignChange, type Ways } from "./saved";

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

  const of = (id: string) => ({ path: { variant_id: id } });
  const ways: Ways<Scheme> = {
    sort: "variant",
    open: () => variant,
    read: (id) => unwrap(api.GET("/api/variants/{variant_id}/scheme", { params: of(id) })),
    undo: ({ id, base, headers }) =>
      unwrap(
        api.POST("/api/variants/{variant_id}/undo", {
          params: of(id),
          headers,
          body: { base_revision: base },
        }),
      ),
    redo: ({ id, base, headers }) =>
      unwrap(
        api.POST("/api/variants/{variant_id}/redo", {
          params: of(id),
          headers,
          body: { base_revision: base },
        }),
      ),
    restore: ({ id, base, headers }, revision) =>
      unwrap(
        api.POST("/api/variants/{variant_id}/restore", {
          params: of(id),
          headers,
          body: { base_revision: base, revision },
        }),
      ),
    history: (id) => unwrap(api.GET("/api/variants/{variant_id}/revisions", { params: of(id) })),
  };
  const document = useSaved<Scheme, DesignChange>(ways);
  const scheme = document.saved;
  const parts = computed<Part[]>(() =>
    partsWithEntries(scheme.value?.design.components ?? [], document.entries.value),
  );

  async function open(id: string) {
    variant = id;
    scheme.value = null;
    findings.value = null;
    scheme.value = await ways.read(id);
    await loadFindings();
  }

  /** Read it anew: the survey has changed under it. */
  async function refresh() {
    const asked = variant;
    try {
      const read = await ways.read(asked);
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
      const found = await unwrap(api.GET("/api/variants/{variant_id}/findings", { params: at() }));
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
      document.write(({ id, base, headers }) =>
        unwrap(
          api.POST("/api/variants/{variant_id}/found", {
            params: of(id),
            headers,
            body: { ...part, base_revision: base },
          }),
        ),
      ),
    );
  }

  /** An edit that the engine works out: put in, swap, gather. */
  function edit(what: Omit<Schemas["EditIn"], "base_revision">) {
    return andFindings(
      document.write(({ id, base, headers }) =>
        unwrap(
          api.POST("/api/variants/{variant_id}/edit", {
            params: of(id),
            headers,
            body: { ...what, base_revision: base },
          }),
        ),
      ),
    );
  }

  /** Rewire it as a pattern. */
  function applyPattern(pattern: string) {
    return andFindings(
      document.write(({ id, base, headers }) =>
        unwrap(
          api.POST("/api/variants/{variant_id}/pattern", {
            params: of(id),
            headers,
            body: { pattern, base_revision: base },
          }),
        ),
      ),
    );
  }

  /** New figures of cables: what follows from them comes back at once; the drawing stays. */
  async function setCables(rows: Schemas["CableFields"][]): Promise<boolean> {
    return document.write(async ({ id, base, headers }) => {
      const answer = await unwrap(
        api.POST("/api/variants/{variant_id}/cables", {
          params: of(id),
          headers,
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
    const standing = findings.value?.waivers.find((w) => w.finding === finding);
    const body = { finding, reason, base_revision: standing?.revision ?? 0 };
    return counted(() =>
      unwrap(api.POST("/api/variants/{variant_id}/waivers", { params: at(), body })),
    );
  }

  async function withdraw(waiver: string): Promise<boolean> {
    const params = { path: { variant_id: variant, waiver_id: waiver } };
    return counted(() =>
      unwrap(api.DELETE("/api/variants/{variant_id}/waivers/{waiver_id}", { params })),
    );
  }

  async function counted(ask: () => Promise<Schemas["FindingsOut"]>): Promise<boolean> {
    try {
      findings.value = await ask();
      return true;
    } catch (error) {
      notices.failed(error);
      if (error instanceof ProblemError && error.problem.status === 409) await loadFindings();
      return false;
    }
  }

  async function landing(cable: string, end: "start" | "end") {
    const params = { ...at(), query: { cable, end } };
    const found = await unwrap(api.GET("/api/variants/{variant_id}/landing", { params }));
    return found.posts;
  }

  async function joinable(post: string) {
    const params = { ...at(), query: { post } };
    const found = await unwrap(api.GET("/api/variants/{variant_id}/joinable", { params }));
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
    change: (what: DesignChange) => andFindings(document.change(what)),
    undo: () => andFindings(document.undo()),
    redo: () => andFindings(document.redo()),
    restore: (revision: number) => andFindings(document.restore(revision)),
    settle: async (mine: boolean) => {
      await document.settle(mine);
      await loadFindings();
    },
    history: document.history,
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
