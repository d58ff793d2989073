/** A boat taken aboard: everything that its stages ask for is asked once and kept on the device. */
import { api, unwrap, type Schemas } from "@/api/client";

import { asItBegins } from "@/stages/scheme/benchStore";

import { lookAgain } from "./answers";
import { bytesOf, keepTaken, letGo, type Taken } from "./device";

const AT_ONCE = 4;
const MOST_STATES = 48;
type State = Schemas["State"];

/** What every stage of a variant reads. */
const OF_VARIANT = [
  "findings",
  "surveyed",
  "loads",
  "banks",
  "runs",
  "rules",
  "build",
  "prove",
  "log",
  "records",
  "plans",
  "studies",
  "revisions",
  "handover?language=en",
];

export interface Progress {
  done: number;
  of: number;
}

/** Take a boat aboard; the answers are kept by the client of the API as they come. */
export async function takeAboard(
  person: string,
  jobId: string,
  variantId: string,
  told: (progress: Progress) => void,
): Promise<Taken> {
  await navigator.storage?.persist?.();
  const job = await unwrap(api.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId } } }));
  const variants = job.variants.map((v) => v.id);
  const entry: Taken = {
    person,
    job: jobId,
    variant: variantId,
    name: job.name,
    ids: [jobId, ...variants],
    at: new Date().toISOString(),
    bytes: 0,
    answers: 0,
  };
  await letGo(person, jobId);
  await keepTaken(entry);
  await lookAgain();
  const scheme = await unwrap(
    api.GET("/api/variants/{variant_id}/scheme", { params: { path: { variant_id: variantId } } }),
  );
  const begins = asItBegins(scheme.design.profiles);
  const photos = await unwrap(
    api.GET("/api/jobs/{job_id}/photos", { params: { path: { job_id: jobId } } }),
  );
  let pictures = 0;
  const reads: (() => Promise<unknown>)[] = [
    ...OF_VARIANT.map((what) => () => read(`/api/variants/${variantId}/${what}`)),
    ...variants
      .filter((id) => id !== variantId)
      .flatMap((id) => ["scheme", "findings"].map((what) => `/api/variants/${id}/${what}`))
      .map((address) => () => read(address)),
    ...[
      "/api/jobs",
      "/api/choices",
      "/api/stock",
      `/api/jobs/${jobId}`,
      `/api/jobs/${jobId}/survey`,
    ].map((address) => () => read(address)),
    ...states(scheme, begins).map((state) => () => compute(variantId, "bench", state)),
    () => compute(variantId, "positions", begins),
    ...photos.map((photo) => async () => (pictures += await picture(photo.id))),
  ];
  let [done, next] = [0, 0];
  async function worker() {
    for (let mine = next++; mine < reads.length; mine = next++) {
      await reads[mine]?.();
      told({ done: ++done, of: reads.length });
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  entry.answers = reads.length;
  entry.bytes = pictures + (await bytesOf(person, jobId));
  await keepTaken(entry);
  await lookAgain();
  return entry;
}

/** Every switch in each of its positions with all others at rest, or all of them together where
 * those are few; engine stopped and running. */
export function states(scheme: Schemas["SchemeOut"], atRest: State): State[] {
  const turned = scheme.switches.filter((s) => s.positions.length > 1);
  const all = turned.reduce((n, s) => n * s.positions.length, 2);
  let ways: Record<string, string>[] = [{}];
  if (all <= MOST_STATES) {
    for (const { id, positions, position } of turned) {
      ways = ways.flatMap((way) =>
        positions.map((to) => (to === position ? way : { ...way, [id]: to })),
      );
    }
  } else {
    ways = ways.concat(
      turned.flatMap((s) =>
        s.positions.filter((p) => p !== s.position).map((p) => ({ [s.id]: p })),
      ),
    );
  }
  return ways.flatMap((positions) =>
    (["off", "on"] as const).map((engine) => ({ ...atRest, engine, positions })),
  );
}

/** Read an address so that its answer is kept: typed where each stage reads it. */
const read = (address: string) =>
  (api.GET as (path: string, init: object) => Promise<unknown>)(address, { parseAs: "text" });

/** Have a state computed so that its answer is kept. */
function compute(variant: string, what: "bench" | "positions", body: State): Promise<unknown> {
  const init = { params: { path: { variant_id: variant } }, body, parseAs: "text" as const };
  return what === "bench"
    ? api.POST("/api/variants/{variant_id}/bench", init)
    : api.POST("/api/variants/{variant_id}/positions", init);
}

/** Photographs are kept by the service worker, as the pictures that they are. */
async function picture(id: string): Promise<number> {
  const answer = await fetch(`/api/photos/${id}`);
  return (await answer.blob()).size;
}

export async function letGoOf(one: Taken) {
  await letGo(one.person, one.job);
  await lookAgain();
}
