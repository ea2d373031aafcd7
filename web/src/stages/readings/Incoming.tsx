import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { incomingQuery, UNDER_WAY } from "../../api/queries";
import { Button } from "../../kit/controls";
import { CareNote, Line, Sheet, Soft, Stack, TroubleNote } from "../../kit/page";
import { Select } from "../../kit/Select";
import { Ends, Tiles } from "../../kit/text";
import { Progress } from "../../kit/Progress";

const STATES: Record<string, string> = {
  waiting: "waits for its turn",
  reading: "is being read",
  decoding: "is being decoded",
  keeping: "is being kept",
};

/** Files on their way in: progress and cancel, what they ask, or why they were refused. */
export function Incoming({ id }: { id: number }) {
  const queries = useQueryClient();
  const files = useQuery(incomingQuery(id));
  const last = files.data?.files
    .filter((f) => f.state === "done")
    .map((f) => f.id)
    .pop();
  const seen = useRef(last);
  useEffect(() => {
    if (last !== undefined && last !== seen.current)
      void queries.invalidateQueries({ queryKey: ["job", id] });
    seen.current = last;
  }, [last, id, queries]);
  const open = files.data?.files.filter((f) => f.state !== "done") ?? [];
  if (!open.length) return null;
  return (
    <Sheet aria-label="Files on their way">
      {files.data?.is_worker_away && (
        <CareNote title="What decodes files is not running">
          It is started again by itself. The files wait, and nothing of them is lost.
        </CareNote>
      )}
      {open.map((f) => (
        <One key={f.id} id={id} file={f} />
      ))}
    </Sheet>
  );
}

function One({ id, file }: { id: number; file: Schemas["IncomingOut"] }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const path = { params: { path: { job_id: id, incoming_id: file.id } } };
  async function go(send: Promise<unknown>) {
    try {
      await send;
      setTrouble(null);
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
    await queries.invalidateQueries({ queryKey: ["incoming", id] });
  }
  const onCancel = () =>
    void go(
      take(client.POST("/api/jobs/{job_id}/incoming/{incoming_id}/cancel", { ...path, body: {} })),
    );
  if (UNDER_WAY.includes(file.state)) {
    return (
      <Stack $gap={8}>
        <Ends $align="center">
          <strong>
            {file.name} {STATES[file.state]}
          </strong>
          <Button onPress={onCancel}>Cancel</Button>
        </Ends>
        <Progress label={`Progress of ${file.name}`} share={file.progress} />
      </Stack>
    );
  }
  const onMapping = (mapping: Record<string, string>, remember: boolean) =>
    void go(
      take(
        client.POST("/api/jobs/{job_id}/incoming/{incoming_id}/mapping", {
          ...path,
          body: { mapping, remember },
        }),
      ),
    );
  return (
    <Stack $gap={10}>
      {file.state === "asking" ? (
        <Mapping key={file.id} file={file} onSay={onMapping} />
      ) : (
        <>
          <strong>{file.name}</strong>
          {file.trouble && <TroubleNote trouble={new Trouble(0, file.trouble)} />}
        </>
      )}
      <Line>
        <Button onPress={onCancel}>Put this file aside</Button>
      </Line>
      <TroubleNote trouble={trouble} />
    </Stack>
  );
}

/** Which column is which sensor: what the patterns say is filled in, one press confirms it. */
function Mapping({
  file,
  onSay,
}: {
  file: Schemas["IncomingOut"];
  onSay: (mapping: Record<string, string>, remember: boolean) => void;
}) {
  const proposed = Object.fromEntries(
    Object.entries(file.proposal).map(([column, channel]) => [channel, column]),
  );
  const [chosen, setChosen] = useState<Record<string, string>>(proposed);
  const isProposed = Object.keys(file.proposal).length > 0;
  const columns = Object.values(chosen).filter(Boolean);
  const isWhole =
    file.wanted.every((w) => chosen[w.id]) && new Set(columns).size === file.wanted.length;
  const isSwap = isProposed && file.trouble?.code === "channels_swapped";
  return (
    <>
      <CareNote title={`${file.name}: ${file.trouble?.message ?? ""}`}>
        <div>Read: {file.trouble?.read}</div>
        <div>{file.trouble?.advice}</div>
      </CareNote>
      <Tiles $least={210}>
        {file.wanted.map((w) => (
          <Select
            key={w.id}
            label={w.name}
            value={chosen[w.id] ?? ""}
            onChange={(column) => setChosen((c) => ({ ...c, [w.id]: column }))}
            options={[
              { value: "", label: "choose a column" },
              ...file.columns.map((c) => ({ value: c, label: c })),
            ]}
          />
        ))}
      </Tiles>
      {columns.length > new Set(columns).size && <Soft>One column is chosen twice.</Soft>}
      <Line>
        <Button
          look="main"
          isDisabled={!isWhole}
          onPress={() =>
            onSay(Object.fromEntries(file.wanted.map((w) => [chosen[w.id] ?? "", w.id])), !isSwap)
          }
        >
          {isSwap
            ? "Swap them back and read it"
            : isProposed
              ? "That is right, read it"
              : "Read it so"}
        </Button>
      </Line>
      <Soft>{isSwap ? "For this file only." : "Remembered for files with the same columns."}</Soft>
    </>
  );
}
