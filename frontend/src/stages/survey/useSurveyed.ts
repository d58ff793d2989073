/** What the survey says of a variant: what to find out, and charge from resting volts. */
import { api, unwrap } from "@/api/client";
import { useReport } from "@/documents/useReport";

export function useSurveyed() {
  return useReport("surveyed", (variant) =>
    unwrap(
      api.GET("/api/variants/{variant_id}/surveyed", { params: { path: { variant_id: variant } } }),
    ),
  );
}
