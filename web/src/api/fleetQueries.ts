import { queryOptions } from "@tanstack/react-query";
import { client, take } from "./client";

const WORKING_MS = 3000;

/** The fleet; while it is worked out anew it is asked for again and again. */
export const fleetQuery = queryOptions({
  queryKey: ["fleet"],
  queryFn: () => take(client.GET("/api/fleet")),
  refetchInterval: ({ state }) => (state.data?.is_working ? WORKING_MS : false),
});

export const engineTrendQuery = (engine: number) =>
  queryOptions({
    queryKey: ["fleet", engine],
    queryFn: () =>
      take(
        client.GET("/api/engines/{engine_id}/trend", { params: { path: { engine_id: engine } } }),
      ),
    refetchInterval: ({ state }) => (state.data?.is_working ? WORKING_MS : false),
  });

export const calibrationQuery = queryOptions({
  queryKey: ["fleet", "trust"],
  queryFn: () => take(client.GET("/api/fleet/calibration")),
});
