/** Puts a part of a stage on a page, with a survey and a variant behind it. */
import { flushPromises, mount } from "@vue/test-utils";
import { vi } from "vitest";
import type { Component } from "vue";

import { vuetify } from "@/app/theme";
import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { useSurvey } from "@/documents/surveyStore";

import { scheme } from "./samples";
import { choices, survey } from "./surveySamples";

export function ready(changes: Parameters<typeof survey>[0] = {}) {
  const surveys = useSurvey();
  const schemes = useScheme();
  const open = useOpenJob();
  surveys.saved = { revision: 1, survey: survey(changes) } as never; // what the parts look at
  schemes.scheme = scheme();
  open.choices = choices();
  open.ids = { job: "j-1", variant: "v-1" };
  return {
    surveys,
    schemes,
    open,
    set: vi.spyOn(surveys, "set").mockResolvedValue(true),
    put: vi.spyOn(surveys, "put").mockResolvedValue(true),
    remove: vi.spyOn(surveys, "remove").mockResolvedValue(true),
    change: vi.spyOn(schemes, "change").mockResolvedValue(true),
  };
}

export function show(part: Component, props: Record<string, unknown> = {}) {
  const found = mount(part, {
    global: { plugins: [vuetify], stubs: { transition: false } },
    props,
    attachTo: document.body,
  });

  const words = () => found.text().replace(/\s+/g, " ");

  /** The input or select under a label. */
  function field(label: string): HTMLInputElement {
    const named = [...document.querySelectorAll("label")].find((l) =>
      l.textContent?.trim().startsWith(label),
    );
    const input = named && document.getElementById(named.htmlFor);
    if (!input) throw new Error(`there is no field ${label}`);
    return input as HTMLInputElement;
  }

  async function type(label: string, text: string) {
    const input = field(label);
    input.value = text;
    input.dispatchEvent(new Event("input"));
    input.dispatchEvent(new Event("change"));
    await flushPromises();
  }

  async function pick(label: string, title: string) {
    const select = field(label) as unknown as HTMLSelectElement;
    select.selectedIndex = [...select.options].findIndex((o) => o.text.trim() === title);
    select.dispatchEvent(new Event("change"));
    await flushPromises();
  }

  async function press(name: string) {
    const button = [...document.querySelectorAll("button")].find(
      (b) => b.textContent?.includes(name) || b.getAttribute("aria-label")?.includes(name),
    );
    if (!button) throw new Error(`there is no button ${name}`);
    button.click();
    await flushPromises();
  }

  return { found, words, field, type, pick, press };
}
