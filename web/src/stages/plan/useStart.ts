import { useNavigate } from "react-router";
import { client, take } from "../../api/client";
import { useChange } from "../../api/queries";

/** Starts on the bench and goes there. */
export function useStart(id: number) {
  const navigate = useNavigate();
  const { change, trouble, isBusy } = useChange(id);
  async function onStart() {
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/plan/start", {
          params: { path: { job_id: id } },
          body: { version },
        }),
      ),
    );
    if (done) void navigate(`/jobs/${id}/bench`);
  }
  return { onStart, trouble, isBusy };
}
