/** The edits that fields make: a section or a row of the survey, a part of the variant. */
import { freeId } from "@/shared/ids";

import type { FieldValue, Fields } from "./saved";
import { useScheme } from "./schemeStore";
import { useSurvey, type RowList, type Section } from "./surveyStore";

export function useEdits() {
  const schemes = useScheme();
  const surveys = useSurvey();

  /** A save of one field of a section. */
  const field = (section: Section, name: string) => (value: FieldValue) =>
    surveys.set(section, { [name]: value });

  /** A save of one field of a row. */
  const cell = (list: RowList, id: string, name: string) => (value: FieldValue) =>
    surveys.put(list, { id, [name]: value });

  /** A save of one figure of a part. */
  const figure = (part: string, name: string) => (value: FieldValue) =>
    schemes.change({ type: "set_part", part, fields: { [name]: value } });

  function addRow(list: RowList, name: string, row: Fields) {
    const taken = (surveys.survey?.[list] ?? []).map((other) => other.id);
    return surveys.put(list, { id: freeId(name, taken), ...row });
  }

  return { field, cell, figure, addRow };
}
