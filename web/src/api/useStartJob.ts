import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, take, Trouble, unknownTrouble, type Schemas } from "./client";

/** Starts a job and goes to its intake; what stands in the way is told. */
export function useStartJob() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState<Trouble | null>(null);

  async function start(body: Schemas["NewJob"]) {
    setTrouble(null);
    try {
      const made = await take(client.POST("/api/jobs", { body }));
      await queries.invalidateQueries({ queryKey: ["yard"] });
      void navigate(`/jobs/${made.id}/intake`);
    } catch (error) {
      setTrouble(error instanceof Trouble ? error : unknownTrouble(error));
    }
  }
  return { start, trouble };
}
