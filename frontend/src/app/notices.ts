/** What went wrong or right, said once at the foot of the screen. */
import { defineStore } from "pinia";
import { ref } from "vue";

import { ProblemError } from "@/api/client";

export interface Notice {
  text: string;
  details: string[];
  kind: "error" | "success";
}

export const useNotices = defineStore("notices", () => {
  const notice = ref<Notice | null>(null);

  function said(text: string) {
    notice.value = { text, details: [], kind: "success" };
  }

  function warned(text: string) {
    notice.value = { text, details: [], kind: "error" };
  }

  function failed(error: unknown) {
    if (!(error instanceof ProblemError)) throw error;
    const { detail, errors } = error.problem;
    const details = errors.map((e) => (e.path ? `${e.path}: ${e.message}` : e.message));
    notice.value = { text: detail, details: details.filter((d) => d !== detail), kind: "error" };
  }

  return { notice, said, warned, failed };
});
