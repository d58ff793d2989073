/** The stage Build: the book of the server, and entries with ids that are made here. */
import { api, unwrap, type Schemas } from "@/api/client";
import { useNotices } from "@/app/notices";
import { useEntries } from "@/documents/useEntries";

export type Build = Schemas["BuildOut"];
export type Step = Schemas["Step"];
type Entry = Schemas["EntryIn"];
export type NewEntry = Pick<Entry, "kind" | "target"> & Partial<Entry>;

export type NewPrice = Pick<Schemas["PriceIn"], "item"> & Partial<Schemas["PriceIn"]>;

export function useBuild() {
  const notices = useNotices();
  const stage = useEntries<Build>("build", (params) =>
    unwrap(api.GET("/api/variants/{variant_id}/build", { params })),
  );
  const { report } = stage;
  const kept: (...send: Parameters<typeof stage.kept>) => Promise<boolean> = async (send) =>
    (await stage.kept(send)) !== null;

  /** Send entries. The same one may be sent again. */
  function enter(...made: NewEntry[]): Promise<boolean> {
    return kept((build, params) => {
      const entries = stage.stamped(build, made);
      return unwrap(
        api.POST("/api/variants/{variant_id}/build/entries", { params, body: { entries } }),
      );
    });
  }

  /** Pieces are cut from a reel: they are ticked, and its rest goes back to the stock. */
  function cut(reel: string, pieces: string[]): Promise<boolean> {
    const body = { reel, pieces, entry: crypto.randomUUID() };
    return kept((_, params) =>
      unwrap(api.POST("/api/variants/{variant_id}/build/cut", { params, body })),
    );
  }

  /** Keep lines of the workshop's price list; what a row leaves out stays as it is. */
  function price(...rows: NewPrice[]): Promise<boolean> {
    const body = { rows: rows as Schemas["PriceIn"][] };
    return kept((_, params) =>
      unwrap(api.POST("/api/variants/{variant_id}/build/prices", { params, body })),
    );
  }

  /** The pack or a sheet of it, made by a worker. */
  function pack(told: Partial<Schemas["PackIn"]>) {
    const params = { path: { variant_id: report.value?.variant ?? "" } };
    const body = told as Schemas["PackIn"];
    return unwrap(api.POST("/api/variants/{variant_id}/build/pack", { params, body }));
  }

  /** A photograph taken at a step: kept with the job, and told at the step. */
  async function photograph(jobId: string, target: string, file: Blob): Promise<boolean> {
    try {
      const made = await unwrap(
        api.POST("/api/jobs/{job_id}/photos", {
          params: { path: { job_id: jobId } },
          body: file as never,
          bodySerializer: (body) => body,
          headers: { "Content-Type": "application/octet-stream" },
        }),
      );
      return await enter({ kind: "photo", target, photo: made.id });
    } catch (error) {
      notices.failed(error);
      return false;
    }
  }

  const tick = (target: string, done: boolean) => enter({ kind: "tick", target, done });

  return {
    build: report,
    sending: stage.sending,
    enter,
    cut,
    price,
    pack,
    photograph,
    tick,
  };
}
