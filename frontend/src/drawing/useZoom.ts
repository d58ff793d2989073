/** Zoom and pan of the drawing by wheel, drag, pinch and buttons. Looks only. */
import { computed, ref, watch, type Ref } from "vue";

const MOST = 4;
const CLICK_SLOP_PX = 6;

interface Size {
  width: number;
  height: number;
}

export function useZoom(size: Ref<Size>, frame: Ref<SVGSVGElement | null>) {
  const zoom = ref(1);
  const middle = ref({ x: 0, y: 0 });
  const fingers = new Map<number, { x: number; y: number }>();
  let travelled = 0;

  const viewBox = computed(() => {
    const width = size.value.width / zoom.value;
    const height = size.value.height / zoom.value;
    const x = middle.value.x - width / 2;
    const y = middle.value.y - height / 2;
    return `${x.toFixed(1)} ${y.toFixed(1)} ${width.toFixed(1)} ${height.toFixed(1)}`;
  });

  function whole() {
    zoom.value = 1;
    middle.value = { x: size.value.width / 2, y: size.value.height / 2 };
  }
  watch(size, whole, { immediate: true });

  function by(factor: number) {
    zoom.value = Math.min(MOST, Math.max(1, zoom.value * factor));
    if (zoom.value === 1) whole();
  }

  function pan(dx: number, dy: number) {
    const matrix = frame.value?.getScreenCTM();
    if (!matrix) return;
    const { width, height } = size.value;
    middle.value = {
      x: Math.min(width, Math.max(0, middle.value.x - dx / matrix.a)),
      y: Math.min(height, Math.max(0, middle.value.y - dy / matrix.d)),
    };
  }

  function spread(): number {
    const [a, b] = [...fingers.values()];
    return a && b ? Math.hypot(a.x - b.x, a.y - b.y) : 0;
  }

  function down(event: PointerEvent) {
    if (fingers.size === 0) travelled = 0;
    fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
  }

  function move(event: PointerEvent) {
    const at = fingers.get(event.pointerId);
    if (!at) return;
    const before = spread();
    const [dx, dy] = [event.clientX - at.x, event.clientY - at.y];
    fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
    travelled += Math.abs(dx) + Math.abs(dy);
    if (fingers.size === 2 && before > 0) by(spread() / before);
    else if (zoom.value > 1) pan(dx, dy);
  }

  function up(event: PointerEvent) {
    fingers.delete(event.pointerId);
  }

  /** Whether the finger or mouse was dragging, so that lifting it is no click. */
  function dragged(): boolean {
    return zoom.value > 1 && travelled > CLICK_SLOP_PX;
  }

  return { viewBox, zoom, by, whole, down, move, up, dragged };
}
