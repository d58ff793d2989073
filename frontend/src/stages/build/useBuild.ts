/** The stage Build: the book of the server, and entries with ids that are made here. */
import { api, unwrap, type Schemas } from "@/api/client";
import type { StageValue } from "@/documents/unsaved";
import { useEntries } from "@/documents/useEntries";

export type Build = Schemas["BuildOut"];
export type Step = Schemas["Step"];
type Entry = Schemas["EntryIn"];
export type NewEntry = Pick<Entry, "kind" | "target"> & Partial<Entry>;

export type NewPrice = Pick<Schemas["PriceIn"], "item"> & Partial<Schemas["PriceIn"]>;

/** What is live before a step, or after the last one where `at` lies behind all of them. */
export function liveBefore(build: Build, at: number): Step["live"] {
  const { order } = build.book;
  return at === 0 ? order.start : (order.steps[at - 1]?.live ?? []);
}

/** Ticks, receipts, lengths, notes and photographs as entered; which step is next is told by ticks alone. */
function withWaiting(build: Build, waiting: StageValue[]): Build {
  const state = {
    ...build.state,
    ticks: { ...build.state.ticks },
    received: { ...build.state.received },
    lengths: { ...build.state.lengths },
    notes: [...build.state.notes],
    photos: [...build.state.photos],
  };
  for (const one of waiting) {
    const entry = { ...one, author: null, outdated: false } as Schemas["EntryOut"];
    if (entry.kind === "tick") state.ticks[entry.target] = entry;
    if (entry.kind === "received") state.received[entry.target] = entry;
    if (entry.kind === "length") state.lengths[entry.target] = entry;
    if (entry.kind === "note") state.notes.push(entry);
    if (entry.kind === "photo") state.photos.push(entry);
  }
  // As the server tells it: the next step is the first that is not ticked.
  const open = build.book.order.steps.filter((step) => !state.ticks[step.key]?.done);
  state.steps_done = build.book.order.steps.length - open.length;
  state.next_step = open[0]?.key ?? null;
  return { ...build, state };
}

export function useBuild() {
  const stage = useEntries<Build>(
    "build",
    (params) => unwrap(api.GET("/api/variants/{variant_id}/build", { params })),
    withWaiting,
  );
  const { report } = stage;
  const kept: (...send: Parameters<typeof stage.kept>) => Promise<boolean> = async (send) =>
    (await stage.kept(send)) !== null;

  /** Enter something; whether it is kept, here or by the server. */
  const enter = async (...made: NewEntry[]) => (await stage.enter(...made)) !== null;

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

  const tick = (target: string, done: boolean) => enter({ kind: "tick", target, done });

  return {
    build: report,
    sending: stage.sending,
    enter,
    cut,
    price,
    pack,
    photograph: stage.photograph,
    tick,
  };
}
