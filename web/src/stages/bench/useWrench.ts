import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, Trouble, troubleOf, unknownTrouble, type Schemas } from "../../api/client";
import { boltTracesQuery } from "../../api/queries";
import type { Curve } from "../../drawing/Tightening";

type Happened = readonly Schemas["HappenedOut"][];
const NO_TRACES: Schemas["BoltTrace"][] = [];
interface Samples {
  time_s: number[];
  angle_deg: number[];
  torque_nm: number[];
  end?: boolean;
  error?: unknown;
}
const NOTHING: Samples = { time_s: [], angle_deg: [], torque_nm: [] };

/** A bolt by the wrench: its trace as it grows, then how it was judged beside its neighbours. */
export function useWrench(id: number, step: string, answered: number, within: Happened) {
  const [grown, setGrown] = useState<Curve | null>(null);
  const query = boltTracesQuery(id, step, within.filter((e) => e.kind === "trace").length);
  const traces = useQuery(query).data?.traces ?? NO_TRACES;
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [isTightening, setTightening] = useState(false);

  /** Tighten one bolt; what was found of it, null where it came to nothing. */
  async function tighten(fastener: string, bolt: number): Promise<Schemas["BoltTrace"] | null> {
    setTightening(true);
    setTrouble(null);
    setGrown(NOTHING);
    try {
      const taken = await listen(id, step, fastener, bolt, setGrown);
      const kept = await take(
        client.POST("/api/jobs/{job_id}/bench/traces", {
          params: { path: { job_id: id } },
          body: { step, answered, fastener, bolt, csv: csvOf(taken) },
        }),
      );
      queries.setQueryData(query.queryKey, kept);
      await queries.invalidateQueries({ queryKey: ["job", id] });
      return kept.traces.find((t) => t.fastener === fastener && t.bolt === bolt) ?? null;
    } catch (error) {
      setTrouble(error instanceof Trouble ? error : unknownTrouble(error));
      return null;
    } finally {
      setTightening(false);
    }
  }
  return { tighten, grown, traces, trouble, isTightening };
}

async function listen(
  id: number,
  step: string,
  fastener: string,
  bolt: number,
  grow: (curve: Curve) => void,
): Promise<Samples> {
  const path = [step, fastener, String(bolt)].map(encodeURIComponent).join("/");
  const response = await fetch(`/api/jobs/${id}/bench/tighten/${path}`).catch(() => null);
  if (!response) throw troubleOf(0, null);
  if (!response.ok || !response.body)
    throw troubleOf(response.status, await response.json().catch(() => null));
  let all = NOTHING;
  let rest = "";
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  for (;;) {
    const { done, value } = await reader.read();
    rest += value ?? "";
    const lines = rest.split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) {
      const part = JSON.parse(line) as Samples;
      if (part.error) throw troubleOf(502, part.error);
      if (part.end) return all;
      all = {
        time_s: [...all.time_s, ...part.time_s],
        angle_deg: [...all.angle_deg, ...part.angle_deg],
        torque_nm: [...all.torque_nm, ...part.torque_nm],
      };
      grow(all);
    }
    if (done) throw troubleOf(0, null);
  }
}

function csvOf(taken: Samples): string {
  const rows = taken.time_s.map(
    (t, i) => `${t},${taken.angle_deg[i] ?? 0},${taken.torque_nm[i] ?? 0}`,
  );
  return ["time (s),angle (deg),torque (Nm)", ...rows, ""].join("\n");
}
