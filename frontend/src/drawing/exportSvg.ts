/** The drawing as a file of its own: the same picture, its styles written into it. */

const KEPT = [
  "fill",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-linecap",
  "stroke-linejoin",
  "opacity",
  "font-size",
  "font-weight",
  "font-family",
  "text-anchor",
];
const ONLY_ON_SCREEN = ".touch, .reach, .run, .target";
const ROOM = 8;

/** A copy of a drawing that looks the same outside the page. */
export function standalone(drawing: SVGSVGElement, width: number, height: number): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const from = [drawing, ...drawing.querySelectorAll("*")];
  const to = [copy, ...copy.querySelectorAll("*")];
  from.forEach((element, n) => {
    const styles = getComputedStyle(element);
    const text = KEPT.map((name) => `${name}:${styles.getPropertyValue(name)}`).join(";");
    to[n]?.setAttribute("style", text);
    for (const name of ["class", "tabindex", "role", "aria-pressed", "data-v-app"]) {
      to[n]?.removeAttribute(name);
    }
  });
  from.forEach((element, n) => {
    if (element.matches(ONLY_ON_SCREEN)) to[n]?.remove();
  });
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("viewBox", `${-ROOM} ${-ROOM} ${width + 2 * ROOM} ${height + 2 * ROOM}`);
  copy.setAttribute("width", String(width + 2 * ROOM));
  copy.setAttribute("height", String(height + 2 * ROOM));
  const paper = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  const background = getComputedStyle(drawing).getPropertyValue("--v-theme-background");
  for (const [name, value] of Object.entries({
    x: -ROOM,
    y: -ROOM,
    width: width + 2 * ROOM,
    height: height + 2 * ROOM,
    fill: background ? `rgb(${background})` : "#fff",
  })) {
    paper.setAttribute(name, String(value));
  }
  copy.insertBefore(paper, copy.firstChild);
  return `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(copy)}`;
}

/** Hand a text to the browser as a file to keep. */
export function keepAs(name: string, text: string, type: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
