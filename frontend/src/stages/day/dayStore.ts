/** The stage Day: plans, the day that is shown, and the moment that is pointed at. */
import { QueryObserver, useQuery } from "@tanstack/vue-query";
import { defineStore } from "pinia";
import { computed, ref, shallowRef, watchEffect } from "vue";

import { api, ProblemError, unwrap, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useNotices } from "@/app/notices";
import { useScheme } from "@/documents/schemeStore";

export type Plan = Schemas["Plan"];
export type Study = Schemas["StudyOut"];
export type Sheet = Schemas["DaySheet"];

const ASK_AGAIN_MS = 250;
/** A moment holds a whole drawing: kept as long as a hand goes back and forth over the day. */
const MOMENT_KEPT_MS = 20_000;
export const unsettled = (study: Study | null) =>
  study?.status === "waiting" || study?.status === "running";

/** What is asked of a plan: by which school, and with which one thing going wrong. */
export interface Asked {
  plan: string;
  school: string | null;
  case: string | null;
}

export const useDay = defineStore("day", () => {
  const notices = useNotices();
  const schemes = useScheme();
  const plans = shallowRef<Schemas["PlansOut"] | null>(null);
  const studies = shallowRef<Study[]>([]);
  const asked = ref<Asked | null>(null);
  const study = shallowRef<Study | null>(null);
  const day = shallowRef<Schemas["DayOut"] | null>(null);
  const at = ref(0);
  const refused = ref<{ detail: string; errors: string[] } | null>(null);
  const variant = ref("");

  const kept = computed(() => plans.value?.plans.find((p) => p.id === asked.value?.plan) ?? null);
  const school = computed(() => asked.value?.school ?? kept.value?.school ?? null);

  /** Everything of a variant; the day of the plan that was looked at last, if it is there. */
  async function open(id: string, want: Partial<Asked> = {}) {
    variant.value = id;
    day.value = study.value = null;
    await Promise.all([loadPlans(), loadStudies()]);
    const all = plans.value?.plans ?? [];
    const wanted = [want.plan, asked.value?.plan, all[0]?.id].find((p) =>
      all.some((one) => one.id === p),
    );
    asked.value = wanted
      ? { plan: wanted, school: want.school ?? null, case: want.case ?? null }
      : null;
    if (want.school || want.case) await live();
    else {
      await showKept();
      // A day takes a second: what was never run, or ran on an older scheme, is run at once.
      const known = studies.value.find((s) => s.id === (study.value?.id ?? ""));
      if (kept.value && !kept.value.problem && (!known || known.stale)) await live();
    }
  }

  /** The scheme or the survey has moved on: plans may fit otherwise, days may be stale. */
  async function freshen() {
    await Promise.all([loadPlans(), loadStudies()]);
    const params = { path: { study_id: study.value?.id ?? "" } };
    if (!study.value) return;
    const now = await safely(() => unwrap(api.GET("/api/studies/{study_id}", { params })));
    if (now && now.id === study.value?.id) study.value = now;
  }

  async function loadPlans() {
    const params = { path: { variant_id: variant.value } };
    const found = await safely(() =>
      unwrap(api.GET("/api/variants/{variant_id}/plans", { params })),
    );
    if (found) plans.value = found;
  }

  async function loadStudies() {
    const params = { path: { variant_id: variant.value } };
    const found = await safely(() =>
      unwrap(api.GET("/api/variants/{variant_id}/studies", { params })),
    );
    if (found) studies.value = found;
  }

  async function safely<T>(ask: () => Promise<T>): Promise<T | null> {
    try {
      return await ask();
    } catch (error) {
      notices.failed(error);
      return null;
    }
  }

  /** The newest day of the plan, as it was computed before. */
  async function showKept() {
    day.value = study.value = null;
    const same = studies.value.find(
      (s) => s.kind === "day" && s.plan === asked.value?.plan && s.ask["school"] === school.value,
    );
    if (same) await follow(same);
  }

  async function choose(plan: string) {
    asked.value = { plan, school: null, case: null };
    await showKept();
  }

  async function handle(by: string) {
    if (!asked.value) return;
    asked.value = { ...asked.value, school: by, case: null };
    await live();
  }

  /** Run the plan as it is asked for now. */
  async function live() {
    const now = asked.value;
    if (!now) return;
    const params = { path: { variant_id: variant.value, plan_id: now.plan } };
    const body = { school: now.school, case: now.case };
    refused.value = null;
    try {
      await follow(
        await unwrap(api.POST("/api/variants/{variant_id}/plans/{plan_id}/day", { params, body })),
      );
    } catch (error) {
      refuse(error);
    }
  }

  function refuse(error: unknown) {
    if (!(error instanceof ProblemError)) throw error;
    const { detail, errors } = error.problem;
    refused.value = {
      detail,
      errors: errors.map((e) => (e.path ? `${e.path}: ${e.message}` : e.message)),
    };
  }

  /** Ask after a study until it is settled, and show it when it is the newest asked for. */
  async function follow(started: Study) {
    study.value = started;
    // Another day may be asked for meanwhile: this one then goes on unseen.
    const settled = await untilSettled(started, (now) => {
      if (study.value?.id === now.id) study.value = now;
    });
    if (study.value?.id !== settled.id) return;
    study.value = settled;
    if (settled.status === "failed") {
      refused.value = { detail: settled.problem ?? "It could not be followed.", errors: [] };
    }
    if (settled.status !== "done") return;
    const params = { path: { study_id: settled.id } };
    const found = await safely(() => unwrap(api.GET("/api/studies/{study_id}/day", { params })));
    if (!found || study.value?.id !== settled.id) return;
    day.value = found;
    point(at.value);
    await Promise.all([loadStudies(), schemes.refresh()]);
  }

  /** What is known of a study, again and again until it is settled. */
  function untilSettled(started: Study, tell: (now: Study) => void): Promise<Study> {
    if (!unsettled(started)) return Promise.resolve(started);
    const params = { path: { study_id: started.id } };
    const asking = new QueryObserver<Study>(queries, {
      queryKey: ["study", started.id],
      queryFn: () => unwrap(api.GET("/api/studies/{study_id}", { params })),
      initialData: started,
      staleTime: ASK_AGAIN_MS,
      refetchInterval: ASK_AGAIN_MS,
    });
    let told = started;
    return new Promise((settle, fail) => {
      const stop = asking.subscribe(({ data: now = told, error }) => {
        if (!error && now !== told) tell((told = now));
        if (!error && unsettled(now)) return;
        stop();
        if (error) fail(error);
        else settle(now);
      });
    });
  }

  async function cancel(id: string) {
    const params = { path: { study_id: id } };
    return safely(() => unwrap(api.POST("/api/studies/{study_id}/cancel", { params })));
  }

  const askedFor = ref(0);
  const ranStudy = computed(() =>
    day.value && study.value?.status === "done" ? study.value.id : "",
  );
  const pointed = useQuery(
    {
      queryKey: computed(() => ["moment", ranStudy.value, askedFor.value]),
      queryFn: () => {
        const params = { path: { study_id: ranStudy.value }, query: { at_s: askedFor.value } };
        return safely(() => unwrap(api.GET("/api/studies/{study_id}/moment", { params })));
      },
      enabled: computed(() => ranStudy.value !== ""),
      staleTime: Infinity,
      gcTime: MOMENT_KEPT_MS,
      // Until the new one is there the one before stays, but never that of another day.
      placeholderData: (before, query) =>
        query?.queryKey[1] === ranStudy.value ? before : undefined,
    },
    queries,
  );
  const moment = computed(() => pointed.data.value ?? null);
  // Of moments pointed at in haste, the last one is asked for when the answer before is there.
  watchEffect(() => {
    if (!pointed.isFetching.value) askedFor.value = at.value;
  });

  /** Point at a moment [s] of the day. */
  function point(seconds: number) {
    const end = (day.value?.sheet.plan.hours ?? 0) * 3600;
    at.value = Math.min(Math.max(0, seconds), end);
  }

  async function newPlan(ready: string, by: string): Promise<boolean> {
    const params = { path: { variant_id: variant.value } };
    const made = await safely(() =>
      unwrap(api.POST("/api/variants/{variant_id}/plans", { params, body: { ready, school: by } })),
    );
    if (!made) return false;
    await loadPlans();
    await choose(made.id);
    return true;
  }

  /** Keep the plan as it was changed; what does not fit is told, and nothing is lost. */
  function keep(document: Plan, by: string): Promise<boolean> {
    // One after another: each is kept on top of what the one before has left.
    const mine = keeping.then(() => keepNow(document, by));
    keeping = mine.catch(() => false);
    return mine;
  }

  let keeping: Promise<boolean> = Promise.resolve(true);

  async function keepNow(document: Plan, by: string): Promise<boolean> {
    const now = kept.value;
    if (!now) return false;
    const params = { path: { variant_id: variant.value, plan_id: now.id } };
    const body = { revision: now.revision, school: by, document: { ...document } };
    refused.value = null;
    try {
      await unwrap(api.PUT("/api/variants/{variant_id}/plans/{plan_id}", { params, body }));
    } catch (error) {
      refuse(error);
      if (error instanceof ProblemError && error.problem.status === 409) await loadPlans();
      return false;
    }
    await showChanged();
    return true;
  }

  /** The plan is another now: the day that is shown may be of the one before. */
  async function showChanged() {
    if (asked.value) asked.value = { ...asked.value, school: null, case: null };
    await loadPlans();
    await loadStudies();
    if (study.value) study.value = studies.value.find((s) => s.id === study.value?.id) ?? null;
  }

  /** Take the newest change of the plan back, or bring back what was taken back last. */
  async function undo(redo = false) {
    await keeping;
    const now = kept.value;
    if (!now) return;
    const params = { path: { variant_id: variant.value, plan_id: now.id } };
    const body = { revision: now.revision };
    const path = redo
      ? "/api/variants/{variant_id}/plans/{plan_id}/redo"
      : "/api/variants/{variant_id}/plans/{plan_id}/undo";
    await safely(() => unwrap(api.POST(path, { params, body })));
    await showChanged();
  }

  async function drop(plan: string) {
    const params = { path: { variant_id: variant.value, plan_id: plan } };
    await safely(() =>
      unwrap(api.DELETE("/api/variants/{variant_id}/plans/{plan_id}", { params })),
    );
    await open(variant.value);
  }

  /** A plan that was taken away, at hand again. */
  async function bringBack(plan: string) {
    const params = { path: { variant_id: variant.value, plan_id: plan } };
    await safely(() =>
      unwrap(api.POST("/api/variants/{variant_id}/plans/{plan_id}/back", { params })),
    );
    await open(variant.value, { plan });
  }

  return {
    variant,
    plans,
    studies,
    asked,
    kept,
    school,
    study,
    day,
    at,
    moment,
    refused,
    open,
    freshen,
    choose,
    handle,
    live,
    cancel,
    point,
    newPlan,
    keep,
    drop,
    bringBack,
    undo,
    untilSettled,
    loadStudies,
    askCase: async (key: string | null) => {
      if (!asked.value) return;
      asked.value = { ...asked.value, case: key };
      await (key ? live() : showKept());
    },
  };
});
