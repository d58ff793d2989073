/** The findings drawer over a scheme, with its dialogs left out. */
import { mount } from "@vue/test-utils";

import type { Schemas } from "@/api/client";
import { vuetify } from "@/app/theme";
import { useScheme } from "@/documents/schemeStore";
import FindingsList from "@/stages/frame/FindingsList.vue";

export function findingsList(made: Schemas["SchemeOut"], found: Schemas["FindingsOut"]) {
  const schemes = useScheme();
  schemes.scheme = made;
  schemes.findings = found;
  const list = mount(FindingsList, {
    global: { plugins: [vuetify], stubs: { RouterLink: true, VBtn: plainButton } },
  });
  return { list, schemes };
}

/** A button as a test needs it: what is said on it, and a click. */
export const plainButton = {
  inheritAttrs: false,
  template: '<button type="button" v-bind="$attrs"><slot /></button>',
};
