import { queryOptions, useQuery, useQueryClient, QueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, rememberCsrf, take, Trouble, type Schemas } from "./client";

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { retry: (count, error) => count < 2 && !(error instanceof Trouble && error.status < 500), staleTime: 2000 },
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

export const yardQuery = queryOptions({ queryKey: ["yard"], queryFn: () => take(client.GET("/api/yard")) });

const at = (id: number) => ({ params: { path: { job_id: id } } });

/** Everything about a job hangs under ["job", id], so that one change refreshes all of it. */
export const jobQuery = (id: number) => queryOptions({ queryKey: ["job", id], queryFn: () => take(client.GET("/api/jobs/{job_id}", at(id))) });
export const readingsQuery = (id: number) =>
  queryOptions({ queryKey: ["job", id, "readings"], queryFn: () => take(client.GET("/api/jobs/{job_id}/readings", at(id))) });
export const verdictQuery = (id: number) =>
  queryOptions({ queryKey: ["job", id, "verdict"], queryFn: () => take(client.GET("/api/jobs/{job_id}/verdict", at(id))) });
export const planQuery = (id: number) =>
  queryOptions({ queryKey: ["job", id, "plan"], queryFn: () => take(client.GET("/api/jobs/{job_id}/plan", at(id))) });
export const previewQuery = (id: number, scope: string[]) =>
  queryOptions({
    queryKey: ["preview", id, ...scope],
    queryFn: () => take(client.POST("/api/jobs/{job_id}/plan/preview", { ...at(id), body: { scope } })),
    staleTime: 60_000,
    placeholderData: (before) => before,
  });
export const benchQuery = (id: number) =>
  queryOptions({ queryKey: ["job", id, "bench"], queryFn: () => take(client.GET("/api/jobs/{job_id}/bench", at(id))) });
export const proofQuery = (id: number) =>
  queryOptions({ queryKey: ["job", id, "proof"], queryFn: () => take(client.GET("/api/jobs/{job_id}/proof", at(id))) });
export const handoverQuery = (id: number) =>
  queryOptions({ queryKey: ["job", id, "handover"], queryFn: () => take(client.GET("/api/jobs/{job_id}/handover", at(id))) });
export const tracesQuery = (id: number, capture: number) =>
  queryOptions({
    queryKey: ["traces", id, capture],
    queryFn: () =>
      take(client.GET("/api/jobs/{job_id}/captures/{capture_id}/traces", { params: { path: { job_id: id, capture_id: capture } } })),
    staleTime: Infinity,
  });

export function useJob(id: number) {
  return useQuery(jobQuery(id));
}

/** Runs a change of a job: keeps its trouble, refreshes all that shows the job, and says whether it is under way. */
export function useChange(id: number) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [isBusy, setBusy] = useState(false);

  async function change<T>(send: (version: number) => Promise<T>): Promise<T | null> {
    setBusy(true);
    try {
      const job = queries.getQueryData<Schemas["JobOut"]>(["job", id]);
      const done = await send(job?.version ?? 1);
      // The next change may come before the page has looked again: it must know the version this one made.
      if (done && typeof done === "object" && "version" in done && typeof done.version === "number") {
        const version = done.version;
        queries.setQueryData<Schemas["JobOut"]>(["job", id], (old) => old && { ...old, version });
      }
      setTrouble(null);
      return done;
    } catch (error) {
      setTrouble(error instanceof Trouble ? error : new Trouble(0, { message: String(error), read: "", expected: "", advice: "", faults: [], changes: [] }));
      return null;
    } finally {
      await queries.invalidateQueries({ queryKey: ["job", id] });
      void queries.invalidateQueries({ queryKey: ["yard"] });
      setBusy(false);
    }
  }
  return { change, trouble, isBusy, setTrouble };
}
