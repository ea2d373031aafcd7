import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, take } from "./client";

const at = (book: number) => ({ params: { path: { book_id: book } } });
const still = { staleTime: 600_000 };

export const changesQuery = (book: number) =>
  queryOptions({
    queryKey: ["book changes", book],
    queryFn: () =>
      take(client.GET("/api/books/{book_id}/changes", { params: { path: { book_id: book } } })),
  });
export const booksQuery = queryOptions({
  queryKey: ["books"],
  queryFn: () => take(client.GET("/api/books")),
});
export const bookQuery = (book: number) =>
  queryOptions({
    queryKey: ["book", book],
    queryFn: () => take(client.GET("/api/books/{book_id}", at(book))),
    enabled: book > 0,
    ...still,
  });
export const faceQuery = (book: number) =>
  queryOptions({
    queryKey: ["book", book, "face"],
    queryFn: () => take(client.GET("/api/books/{book_id}/face", at(book))),
    enabled: book > 0,
    ...still,
  });
/**
 * The engine of a job as its latest verdict has it; hangs under the job, so that a new reading
 * draws it anew.
 */
export const wornQuery = (job: number, times: number) =>
  queryOptions({
    queryKey: ["job", job, "face", times],
    queryFn: () =>
      take(
        client.GET("/api/jobs/{job_id}/face/{times}", { params: { path: { job_id: job, times } } }),
      ),
    placeholderData: keepPreviousData,
  });
export const offQuery = (
  book: number,
  { chain, sprocket }: { chain: string; sprocket: string },
  teeth: number,
) =>
  queryOptions({
    queryKey: ["book", book, "off", chain, sprocket, teeth],
    queryFn: () =>
      take(
        client.GET("/api/books/{book_id}/off/{chain}/{sprocket}/{teeth}", {
          params: { path: { book_id: book, chain, sprocket, teeth } },
        }),
      ),
    placeholderData: keepPreviousData,
    ...still,
  });
export const clearanceQuery = (book: number) =>
  queryOptions({
    queryKey: ["book", book, "clearance"],
    queryFn: () => take(client.GET("/api/books/{book_id}/clearance", at(book))),
    enabled: book > 0,
    ...still,
  });
/** Chains off together, cams held by one of the book's ways or by nothing. */
export const looseQuery = (book: number, chains: string[], hold: number | null, parked: boolean) =>
  queryOptions({
    queryKey: ["book", book, "loose", chains.join(), hold, parked],
    queryFn: () =>
      take(
        client.GET("/api/books/{book_id}/loose", {
          params: {
            path: { book_id: book },
            query: { chains: chains.join(","), parked, ...(hold === null ? {} : { hold }) },
          },
        }),
      ),
    enabled: book > 0,
    ...still,
  });
export const touchQuery = (book: number, cam: string) =>
  queryOptions({
    queryKey: ["book", book, "touch", cam],
    queryFn: () =>
      take(
        client.GET("/api/books/{book_id}/touch/{cam}", {
          params: { path: { book_id: book, cam } },
        }),
      ),
    placeholderData: keepPreviousData,
    enabled: book > 0,
    ...still,
  });
export const partQuery = (job: number, part: string) =>
  queryOptions({
    queryKey: ["job", job, "part", part],
    queryFn: () =>
      take(
        client.GET("/api/jobs/{job_id}/parts/{part}", { params: { path: { job_id: job, part } } }),
      ),
  });
