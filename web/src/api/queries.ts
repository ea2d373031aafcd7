import { queryOptions, useQuery, useQueryClient, QueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, rememberCsrf, take, Trouble, unknownTrouble, type Schemas } from "./client";

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => count < 2 && !(error instanceof Trouble && error.status < 500),
      staleTime: 2000,
      // The worker answers without the network: being offline is no reason not to ask.
      networkMode: "always",
    },
    mutations: { networkMode: "always" },
  },
});

export const meQuery = queryOptions({
  queryKey: ["me"],
  queryFn: async () => {
    const me = await take(client.GET("/api/session"));
    rememberCsrf(me.csrf);
    return me;
  },
  staleTime: Infinity,
});

export const keysQuery = queryOptions({
  queryKey: ["keys"],
  queryFn: () => take(client.GET("/api/keys")),
});

export const peopleQuery = queryOptions({
  queryKey: ["people"],
  queryFn: () => take(client.GET("/api/people")),
});

export const yardQuery = queryOptions({
  queryKey: ["yard"],
  queryFn: () => take(client.GET("/api/yard")),
});

/** What is called so; what was found before stays until the next is there. */
export const searchQuery = (typed: string, book?: number) =>
  queryOptions({
    queryKey: ["search", typed, book],
    queryFn: () =>
      take(client.GET("/api/search", { params: { query: { q: typed, ...(book && { book }) } } })),
    enabled: typed !== "",
    placeholderData: (before) => before,
    staleTime: 10_000,
  });

const at = (id: number) => ({ params: { path: { job_id: id } } });

/** Everything about a job hangs under ["job", id], so that one change refreshes all of it. */
export const jobQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id],
    queryFn: async () => {
      const job = await take(client.GET("/api/jobs/{job_id}", at(id)));
      // An answer that set out before one's last change must not bring its older version back.
      const known = queryClient.getQueryData<Schemas["JobOut"]>(["job", id])?.version ?? 0;
      return known > job.version ? { ...job, version: known } : job;
    },
  });
export const readingsQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "readings"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/readings", at(id))),
  });
export const verdictQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "verdict"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/verdict", at(id))),
  });
/** Advice on a job by a school; what if readings were left out or others. */
export const adviceQuery = (
  id: number,
  asked: Required<Pick<Schemas["AdviceIn"], "school" | "left_out" | "changed">>,
) =>
  queryOptions({
    queryKey: ["job", id, "advice", asked],
    queryFn: () => take(client.POST("/api/jobs/{job_id}/advice", { ...at(id), body: asked })),
    placeholderData: (before) => before,
  });
export const planQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "plan"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/plan", at(id))),
  });
/** What is chosen on the plan: parts, those only set right, ways, and the kit they are bought in. */
export interface Chosen {
  scope: string[];
  kept: string[];
  ways: string[];
  kit: string;
}
export const previewQuery = (id: number, chosen: Chosen, isQuick = false) =>
  queryOptions({
    queryKey: ["preview", id, chosen, isQuick],
    queryFn: () =>
      take(
        client.POST("/api/jobs/{job_id}/plan/preview", {
          ...at(id),
          body: { ...chosen, is_quick: isQuick },
        }),
      ),
    staleTime: 60_000,
  });
export const roadsQuery = (id: number, scope: string[], kept: string[]) =>
  queryOptions({
    queryKey: ["roads", id, scope, kept],
    queryFn: () =>
      take(client.POST("/api/jobs/{job_id}/plan/roads", { ...at(id), body: { scope, kept } })),
    staleTime: 60_000,
    placeholderData: (before) => before,
  });
export const readyQuery = (id: number, chosen: Chosen) =>
  queryOptions({
    queryKey: ["ready", id, chosen],
    queryFn: () => take(client.POST("/api/jobs/{job_id}/plan/ready", { ...at(id), body: chosen })),
    staleTime: 20_000,
    placeholderData: (before) => before,
  });
export const offersQuery = (id: number, chosen: Chosen) =>
  queryOptions({
    queryKey: ["offers", id, chosen],
    queryFn: () => take(client.POST("/api/jobs/{job_id}/plan/offers", { ...at(id), body: chosen })),
    staleTime: 60_000,
  });
export const goQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "go"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/plan/go", at(id))),
  });
export const estimateQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "estimate"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/plan/estimate", at(id))),
  });
export const positionQuery = (id: number, now: string, lean: number) =>
  queryOptions({
    queryKey: ["position", id, now, lean],
    queryFn: () =>
      take(
        client.POST("/api/jobs/{job_id}/plan/position", {
          ...at(id),
          body: { now, lean_deg: lean },
        }),
      ),
    placeholderData: (before) => before,
  });
/** What to set on a wrench with an adapter on it. */
export const wrenchQuery = (id: number, lever: Schemas["LeverIn"]) =>
  queryOptions({
    queryKey: ["wrench", id, lever],
    queryFn: () => take(client.POST("/api/jobs/{job_id}/bench/wrench", { ...at(id), body: lever })),
  });
/** Traces of a step's bolts, judged beside each other; asked for where there is one. */
export const boltTracesQuery = (id: number, step: string, count: number) =>
  queryOptions({
    queryKey: ["job", id, "bolt traces", step],
    queryFn: () =>
      take(
        client.GET("/api/jobs/{job_id}/bench/traces/{step}", {
          params: { path: { job_id: id, step } },
        }),
      ),
    enabled: count > 0,
  });
export const benchQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "bench"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/bench", at(id))),
  });
export const leavingQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "leaving"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/bench/leaving", at(id))),
  });
export const proofQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "proof"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/proof", at(id))),
  });
export const afterQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "after"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/after", at(id))),
  });
/** What is due on all units. */
export const dueQuery = queryOptions({
  queryKey: ["due"],
  queryFn: () => take(client.GET("/api/due")),
});
export const handoverQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "handover"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/handover", at(id))),
  });
export const tracesQuery = (id: number, capture: number) =>
  queryOptions({
    queryKey: ["job", id, "traces", capture],
    queryFn: () =>
      take(
        client.GET("/api/jobs/{job_id}/captures/{capture_id}/traces", {
          params: { path: { job_id: id, capture_id: capture } },
        }),
      ),
    staleTime: Infinity,
  });

export function useJob(id: number) {
  return useQuery(jobQuery(id));
}

/**
 * Runs a change of a job: keeps its trouble, refreshes all that shows the job, and says whether it
 * is under way.
 */
export function useChange(id: number) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [isBusy, setBusy] = useState(false);

  async function change<T>(send: (version: number) => Promise<T>): Promise<T | null> {
    setBusy(true);
    setTrouble(null);
    try {
      const job = queries.getQueryData<Schemas["JobOut"]>(["job", id]);
      const done = await send(job?.version ?? 1);
      // The next change may come before the page has looked again: it must know the version this
      // one made.
      if (
        done &&
        typeof done === "object" &&
        "version" in done &&
        typeof done.version === "number"
      ) {
        const version = done.version;
        queries.setQueryData<Schemas["JobOut"]>(["job", id], (old) => old && { ...old, version });
      }
      setTrouble(null);
      return done;
    } catch (error) {
      setTrouble(error instanceof Trouble ? error : unknownTrouble(error));
      return null;
    } finally {
      await queries.invalidateQueries({ queryKey: ["job", id] });
      void queries.invalidateQueries({ queryKey: ["yard"] });
      setBusy(false);
    }
  }
  return { change, trouble, isBusy, setTrouble };
}

const inJob = (id: number, capture: number) => ({ path: { job_id: id, capture_id: capture } });

/** Files on their way in; looked at often while one is under way. */
export const incomingQuery = (id: number) =>
  queryOptions({
    queryKey: ["incoming", id],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/incoming", at(id))),
    refetchInterval: (query) =>
      query.state.data?.files.some((f) => UNDER_WAY.includes(f.state)) ? 500 : false,
  });
export const UNDER_WAY = ["waiting", "reading", "decoding", "keeping"];

export const captureQuery = (id: number, capture: number) =>
  queryOptions({
    queryKey: ["job", id, "capture", capture],
    queryFn: () =>
      take(client.GET("/api/jobs/{job_id}/captures/{capture_id}", { params: inJob(id, capture) })),
  });
export const windowQuery = (id: number, capture: number, start_s: number, stop_s: number) =>
  queryOptions({
    queryKey: ["window", id, capture, start_s, stop_s],
    queryFn: () =>
      take(
        client.GET("/api/jobs/{job_id}/captures/{capture_id}/window", {
          params: { ...inJob(id, capture), query: { start_s, stop_s, points: 900 } },
        }),
      ),
    staleTime: Infinity,
    gcTime: 30_000,
    placeholderData: (before) => before,
  });
export const compareQuery = (id: number, capture: number, other: number) =>
  queryOptions({
    queryKey: ["job", id, "compare", capture, other],
    queryFn: () =>
      take(
        client.GET("/api/jobs/{job_id}/captures/{capture_id}/against/{other_id}", {
          params: { path: { job_id: id, capture_id: capture, other_id: other } },
        }),
      ),
  });
export const logsQuery = (id: number) =>
  queryOptions({
    queryKey: ["job", id, "logs"],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/logs", at(id))),
  });
export const liveQuery = (id: number) =>
  queryOptions({
    queryKey: ["live", id],
    queryFn: () => take(client.GET("/api/jobs/{job_id}/live", at(id))),
    refetchInterval: (query) =>
      ["live", "connecting"].includes(query.state.data?.state ?? "off") ? 500 : false,
  });
export const answerQuery = (id: number, sheet: Schemas["SheetIn"], isReady: boolean) =>
  queryOptions({
    queryKey: ["answer", id, JSON.stringify(sheet)],
    queryFn: () => take(client.POST("/api/jobs/{job_id}/worksheet", { ...at(id), body: sheet })),
    enabled: isReady,
    staleTime: Infinity,
    gcTime: 10_000,
    retry: false,
  });
