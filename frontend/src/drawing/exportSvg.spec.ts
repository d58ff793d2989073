import { afterEach, describe, expect, it, vi } from "vitest";

import { keepAs, standalone } from "./exportSvg";

afterEach(() => {
  document.body.innerHTML = "";
});

describe("the drawing as a file", () => {
  function drawn(): SVGSVGElement {
    document.body.innerHTML = `
      <svg viewBox="10 10 50 50"><g class="part" data-part="house" tabindex="0">
        <rect class="touch" width="9" height="9"/><text style="fill: rgb(1, 2, 3)">House</text>
        <polyline class="reach" points="0,0 1,1"/><polyline class="core" points="0,0 1,1"/>
      </g></svg>`;
    return document.querySelector("svg") as SVGSVGElement;
  }

  it("is the whole picture, its styles written in, nothing left of the page", () => {
    const text = standalone(drawn(), 400, 300);
    const file = new DOMParser().parseFromString(text, "image/svg+xml");
    const svg = file.documentElement;
    expect(svg.getAttribute("viewBox")).toBe("-8 -8 416 316");
    expect(svg.querySelector("[data-part=house]")).not.toBeNull();
    expect(svg.querySelector("text")?.getAttribute("style")).toContain("fill:rgb(1, 2, 3)");
    expect(svg.querySelectorAll("[class], [tabindex]")).toHaveLength(0);
    // What only a finger needs is left out; the line itself stays.
    expect(svg.querySelectorAll("polyline")).toHaveLength(1);
    expect(svg.querySelectorAll("rect")).toHaveLength(1); // the paper
    expect(document.querySelectorAll("svg .touch")).toHaveLength(1); // the page is as it was
  });

  it("is handed over under its name", () => {
    const url = vi.fn(() => "blob:here");
    vi.stubGlobal("URL", { ...URL, createObjectURL: url, revokeObjectURL: vi.fn() });
    const click = vi.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(() => {});
    keepAs("a.svg", "<svg/>", "image/svg+xml");
    expect(url).toHaveBeenCalledOnce();
    expect(click).toHaveBeenCalledOnce();
  });
});
