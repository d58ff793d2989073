/** Records of monitors: files of the boat, how far each is, what each says of this variant. */
import { useQuery } from "@tanstack/vue-query";
import { computed, watch } from "vue";

import { api, unwrap, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { newId } from "@/api/sending";
import { useNotices } from "@/app/notices";

export type RecordFile = Schemas["RecordOut"];
export type RecordLayout = Schemas["RecordLayout"];
export type Records = Schemas["RecordsOut"];
export type Held = Schemas["HeldAgainst"];

const AGAIN_MS = 1200;
const inWork = (status: string) => status === "waiting" || status === "running";

export function useRecords(variantId: () => string) {
  const notices = useNotices();
  const path = () => ({ path: { variant_id: variantId() } });
  const list = useQuery(
    {
      queryKey: computed(() => ["records", variantId()]),
      queryFn: () => unwrap(api.GET("/api/variants/{variant_id}/records", { params: path() })),
      // While a worker reads or analyses, the list is asked for again.
      refetchInterval: ({ state }) =>
        (state.data?.records.some(
          (one) => (one.confirmed && inWork(one.status)) || inWork(one.analysis.status),
        ) ??
          false) &&
        AGAIN_MS,
    },
    queries,
  );
  watch(list.error, (failed) => failed && notices.failed(failed));

  /** Do something and look again; what it gave, or null when it was refused. */
  async function done<T>(ask: Promise<T>): Promise<T | null> {
    try {
      const answer = await ask;
      await list.refetch();
      return answer;
    } catch (error) {
      notices.failed(error);
      return null;
    }
  }
  const at = (record: string) => ({
    params: { path: { variant_id: variantId(), record_id: record } },
  });

  const take = (file: File, bank: string) =>
    done(
      unwrap(
        api.POST("/api/variants/{variant_id}/records", {
          params: { ...path(), query: { record: newId(), bank, name: file.name.slice(0, 120) } },
          body: file as never,
          bodySerializer: (body) => body,
          headers: { "Content-Type": "application/octet-stream" },
        }),
      ),
    );
  const start = (record: string, body: Schemas["RecordStart"]) =>
    done(
      unwrap(api.PUT("/api/variants/{variant_id}/records/{record_id}", { ...at(record), body })),
    );
  const analyse = (record: string) =>
    done(unwrap(api.POST("/api/variants/{variant_id}/records/{record_id}/analysis", at(record))));
  const one = (record: string) => ({ params: { path: { record_id: record } } });
  const cancel = (record: string) =>
    done(unwrap(api.POST("/api/records/{record_id}/cancel", one(record))));
  const remove = (record: string) =>
    done(unwrap(api.DELETE("/api/records/{record_id}", one(record))));

  return { records: computed(() => list.data.value ?? null), take, start, analyse, cancel, remove };
}
