/** Zoom and pan of the drawing by wheel, drag, pinch and buttons. Looks only. */
import { computed, onBeforeUnmount, onMounted, ref, watch, type Ref } from "vue";

const CLOSEST = 4;
/** The smallest scale at which names can be read at arm's length. */
const READABLE = 0.72;
const CLICK_SLOP_PX = 6;

interface Size {
  width: number;
  height: number;
}

export function useZoom(size: Ref<Size>, frame: Ref<SVGSVGElement | null>) {
  const room = ref<Size>({ width: 800, height: 600 });
  const scale = ref(1);
  const corner = ref({ x: 0, y: 0 });
  const fingers = new Map<number, { x: number; y: number }>();
  let travelled = 0;

  const fit = computed(() =>
    Math.min(room.value.width / size.value.width, room.value.height / size.value.height),
  );
  const zoomed = computed(() => scale.value > fit.value * 1.001);
  const viewBox = computed(() => {
    const width = room.value.width / scale.value;
    const height = room.value.height / scale.value;
    return [corner.value.x, corner.value.y, width, height].map((n) => n.toFixed(1)).join(" ");
  });

  /** Keep the drawing in sight; what is smaller than the room stands in its middle, at the top. */
  function settle() {
    const width = room.value.width / scale.value;
    const height = room.value.height / scale.value;
    const spareX = size.value.width - width;
    const spareY = size.value.height - height;
    corner.value = {
      x: spareX > 0 ? Math.min(spareX, Math.max(0, corner.value.x)) : spareX / 2,
      y: spareY > 0 ? Math.min(spareY, Math.max(0, corner.value.y)) : 0,
    };
  }

  function whole() {
    scale.value = fit.value;
    settle();
  }

  function start() {
    scale.value = fit.value;
    corner.value = { x: 0, y: 0 };
    settle();
  }

  function by(factor: number) {
    const before = scale.value;
    scale.value = Math.min(CLOSEST, Math.max(fit.value, before * factor));
    const shift = 0.5 / before - 0.5 / scale.value;
    corner.value = {
      x: corner.value.x + room.value.width * shift,
      y: corner.value.y + room.value.height * shift,
    };
    settle();
  }

  /** Bring a place into the middle, close enough to be read. */
  function toward(at: { x: number; y: number }) {
    scale.value = Math.max(scale.value, READABLE);
    corner.value = {
      x: at.x - room.value.width / scale.value / 2,
      y: at.y - room.value.height / scale.value / 2,
    };
    settle();
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
    if (fingers.size === 2 && before > 0) {
      by(spread() / before);
    } else if (zoomed.value) {
      corner.value = { x: corner.value.x - dx / scale.value, y: corner.value.y - dy / scale.value };
      settle();
    }
  }

  function up(event: PointerEvent) {
    fingers.delete(event.pointerId);
  }

  /** Whether the finger or mouse was dragging, so that lifting it is no click. */
  function dragged(): boolean {
    return zoomed.value && travelled > CLICK_SLOP_PX;
  }

  const observer = new ResizeObserver(([entry]) => {
    if (!entry || entry.contentRect.width === 0) return;
    room.value = { width: entry.contentRect.width, height: entry.contentRect.height };
    start();
  });
  onMounted(() => frame.value && observer.observe(frame.value));
  onBeforeUnmount(() => observer.disconnect());
  watch(size, (now, before) => {
    if (now.width !== before.width || now.height !== before.height) start();
  });

  return { viewBox, zoomed, by, toward, whole, down, move, up, dragged };
}
