/** A file that a worker makes: asked for, and followed until it is done. */
import { promiseTimeout } from "@vueuse/core";

import { api, unwrap, type Schemas } from "@/api/client";

export type Print = Schemas["PrintOut"];
const LOOK_EVERY_MS = 700;

/** The print once it is done, or has failed. */
export async function finished(print: Print, gone: () => boolean = () => false): Promise<Print> {
  let now = print;
  while ((now.status === "waiting" || now.status === "running") && !gone()) {
    await promiseTimeout(LOOK_EVERY_MS);
    const params = { path: { print_id: print.id } };
    now = await unwrap(api.GET("/api/prints/{print_id}", { params }));
  }
  return now;
}
