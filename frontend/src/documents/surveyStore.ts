/** The survey of a job as it is saved, and every change to it. */
import { defineStore } from "pinia";
import { computed, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";

import { withEntries } from "./overlay";
import { useSaved, type Fields, type SurveyChange, type Ways } from "./saved";

type SurveyOut = Schemas["SurveyOut"];
export type Survey = Schemas["Survey"];
export type Section = Schemas["SetSection"]["section"];
export type RowList = Schemas["PutRows"]["list"];

/** Rows that say the same stay the same objects, so that only what changed is drawn anew. */
function sameRows(now: SurveyOut, before: SurveyOut | null): SurveyOut {
  const old = new Map(before?.survey.items.map((item) => [item.id, item]));
  const items = now.survey.items.map((item) => {
    const was = old.get(item.id);
    return was && JSON.stringify(was) === JSON.stringify(item) ? was : item;
  });
  return { ...now, survey: { ...now.survey, items } };
}

export const useSurvey = defineStore("survey", () => {
  let job = "";
  /** The variant whose audit comes back with every change: the one whose loads are shown. */
  const loadsOf = ref<string | null>(null);
  const of = (id: string) => ({ path: { job_id: id } });
  const ways: Ways<SurveyOut> = {
    sort: "survey",
    open: () => job,
    read: (id) => unwrap(api.GET("/api/jobs/{job_id}/survey", { params: of(id) })),
    undo: ({ id, base, headers }) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/survey/undo", {
          params: of(id),
          headers,
          body: { base_revision: base },
        }),
      ),
    redo: ({ id, base, headers }) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/survey/redo", {
          params: of(id),
          headers,
          body: { base_revision: base },
        }),
      ),
    restore: ({ id, base, headers }, revision) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/survey/restore", {
          params: of(id),
          headers,
          body: { base_revision: base, revision },
        }),
      ),
    history: (id) => unwrap(api.GET("/api/jobs/{job_id}/survey/revisions", { params: of(id) })),
    loadsOf: () => loadsOf.value,
  };
  const document = useSaved<SurveyOut, SurveyChange>(ways, sameRows);
  const survey = computed<Survey | null>(() => {
    const saved = document.saved.value?.survey;
    return saved ? withEntries(saved, document.entries.value) : null;
  });

  async function open(id: string) {
    if (id !== job) document.saved.value = null;
    job = id;
    document.saved.value = await ways.read(id);
  }

  const set = (section: Section, fields: Fields | null) =>
    document.change({ type: "set_section", section, fields });
  const put = (list: RowList, ...rows: Fields[]) =>
    document.change({ type: "put_rows", list, rows });
  const remove = (list: RowList, ...ids: string[]) =>
    document.change({ type: "remove_rows", list, ids });
  const measure = (measurement: Schemas["Measurement"]) =>
    document.change({ type: "record_measurement", measurement });

  return {
    loadsOf,
    saved: document.saved,
    survey,
    conflict: document.conflict,
    busy: document.busy,
    open,
    set,
    put,
    remove,
    measure,
    undo: document.undo,
    redo: document.redo,
    restore: document.restore,
    settle: document.settle,
    history: document.history,
  };
});
