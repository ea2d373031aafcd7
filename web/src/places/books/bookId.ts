import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { jobQuery } from "../../api/queries";

/** The engine book of the page: its own, or that of the job one is in (0 until that is known). */
export function useBookId(): number {
  const { id, book } = useParams();
  const job = useQuery({ ...jobQuery(Number(id ?? 0)), enabled: book === undefined && !!id });
  return Number(book ?? job.data?.book_id ?? 0);
}
