/** The stage Build: the book of the server, and entries with ids that are made here. */
import { computed, ref } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { useNotices } from "@/app/notices";
import { useReport } from "@/documents/useReport";

export type Build = Schemas["BuildOut"];
export type Step = Schemas["Step"];
type Entry = Schemas["EntryIn"];
export type NewEntry = Pick<Entry, "kind" | "target"> & Partial<Entry>;

export type NewPrice = Pick<Schemas["PriceIn"], "item"> & Partial<Schemas["PriceIn"]>;

export function useBuild() {
  const notices = useNotices();
  const { report, asking } = useReport<Build>("build", (variant) =>
    unwrap(
      api.GET("/api/variants/{variant_id}/build", { params: { path: { variant_id: variant } } }),
    ),
  );
  const sending = ref(0);
  const steps = computed(() => report.value?.book.order.steps ?? []);

  function isDone(target: string): boolean {
    return report.value?.state.ticks[target]?.done === true;
  }

  /** Send an entry; true when it is kept. The same one may be sent again. */
  async function enter(...made: NewEntry[]): Promise<boolean> {
    const build = report.value;
    if (!build) return false;
    const at = new Date().toISOString();
    const entries = made.map((one) => ({
      id: crypto.randomUUID(),
      at,
      revision: build.revision,
      ...one,
    }));
    sending.value += 1;
    try {
      const answer = await unwrap(
        api.POST("/api/variants/{variant_id}/build/entries", {
          params: { path: { variant_id: build.variant } },
          body: { entries },
        }),
      );
      queries.setQueriesData<Build>({ queryKey: ["report", "build", build.variant] }, answer);
      return true;
    } catch (error) {
      notices.failed(error);
      return false;
    } finally {
      sending.value -= 1;
    }
  }

  /** Pieces are cut from a reel: they are ticked, and its rest goes back to the stock. */
  async function cut(reel: string, pieces: string[]): Promise<boolean> {
    const build = report.value;
    if (!build) return false;
    try {
      const answer = await unwrap(
        api.POST("/api/variants/{variant_id}/build/cut", {
          params: { path: { variant_id: build.variant } },
          body: { reel, pieces, entry: crypto.randomUUID() },
        }),
      );
      queries.setQueriesData<Build>({ queryKey: ["report", "build", build.variant] }, answer);
      return true;
    } catch (error) {
      notices.failed(error);
      return false;
    }
  }

  /** Keep a line of the workshop's price list. */
  async function price(row: NewPrice): Promise<boolean> {
    const build = report.value;
    if (!build) return false;
    try {
      const answer = await unwrap(
        api.POST("/api/variants/{variant_id}/build/prices", {
          params: { path: { variant_id: build.variant } },
          // What a row leaves out stays as it is.
          body: { rows: [row as Schemas["PriceIn"]] },
        }),
      );
      queries.setQueriesData<Build>({ queryKey: ["report", "build", build.variant] }, answer);
      return true;
    } catch (error) {
      notices.failed(error);
      return false;
    }
  }

  const tick = (target: string, done: boolean) => enter({ kind: "tick", target, done });

  return {
    build: report,
    asking,
    sending: computed(() => sending.value > 0),
    steps,
    isDone,
    enter,
    cut,
    price,
    tick,
  };
}
