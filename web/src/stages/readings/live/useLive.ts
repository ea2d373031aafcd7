import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, Trouble, type Schemas } from "../../../api/client";
import { liveQuery, useChange, useJob } from "../../../api/queries";
import type { PhaserWord } from "../CaptureSheet";

/** The box at one job's engine: what it shows, and everything that can be asked of it. */
export function useLive(id: number) {
  const queries = useQueryClient();
  const live = useQuery(liveQuery(id));
  const job = useJob(id);
  const { change, trouble, isBusy } = useChange(id);
  const [problem, setProblem] = useState<Trouble | null>(null);
  const path = { params: { path: { job_id: id } } };
  const data = live.data;
  const phase = job.data?.bench_started ? "after" : "before";
  const isOn = data?.state === "live" || data?.state === "connecting";

  async function go(send: Promise<Schemas["LiveOut"]>) {
    try {
      const shown = await send;
      queries.setQueryData(["live", id], shown);
      setProblem(null);
      return shown;
    } catch (error) {
      if (error instanceof Trouble) setProblem(error);
      return null;
    } finally {
      void queries.invalidateQueries({ queryKey: ["live", id] });
    }
  }
  return {
    data,
    error: live.error,
    job: job.data,
    isAfter: phase === "after",
    isOn,
    isLost: data?.state === "lost",
    isTheirs: isOn && !data.is_mine,
    /** What went wrong at the box; what went wrong while a record was kept. */
    problem,
    trouble,
    isBusy,
    connect: (cold: boolean, take_over = false) =>
      go(
        take(client.POST("/api/jobs/{job_id}/live", { ...path, body: { cold, phase, take_over } })),
      ),
    command: (body: Partial<Schemas["LiveCommand"]>) =>
      go(
        take(
          client.POST("/api/jobs/{job_id}/live/command", {
            ...path,
            body: { idle: false, ...body } as Schemas["LiveCommand"],
          }),
        ),
      ),
    record: () => go(take(client.POST("/api/jobs/{job_id}/live/record", { ...path, body: {} }))),
    letGo: () => go(take(client.POST("/api/jobs/{job_id}/live/stop", { ...path, body: {} }))),
    /** Keep the last seconds, or what was recorded; whether it was kept. */
    keep: (seconds: number | null, phaser: PhaserWord | null) => {
      const state = phaser ?? "unknown";
      const phasers = Object.fromEntries(
        (data?.phasers ?? []).map((p) => [p.id, { state, command_deg: data?.commands[p.id] ?? 0 }]),
      );
      return change((version) =>
        take(
          client.POST("/api/jobs/{job_id}/live/keep", {
            ...path,
            body: { version, seconds, phasers },
          }),
        ),
      );
    },
  };
}
export type AtBox = ReturnType<typeof useLive>;
