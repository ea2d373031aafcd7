import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { faceQuery, offQuery, partQuery, wornQuery } from "../../api/bookQueries";
import type { Schemas } from "../../api/client";
import { jobQuery } from "../../api/queries";
import { Turn } from "../../drawing/turn/turn";
import { TurningDrive } from "../../drawing/turn/TurningDrive";
import { Choice } from "../../kit/controls";
import { Line, Sheet, Soft, StageHead, Waiting } from "../../kit/page";
import { Select } from "../../kit/Select";
import { CrankPanel, Returns } from "./CrankPanel";
import { OffReport } from "./OffReport";

type Overlay = "book" | "worn" | "off";
const Ground = styled.div<{ $wide: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) ${({ $wide }) => ($wide ? 340 : 276)}px;
  gap: 14px;
  align-items: start;
  min-width: 0;
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Stage = styled.div<{ $wide: boolean }>`
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  height: calc(100vh - ${({ $wide }) => ($wide ? 236 : 342)}px);
  min-height: 430px;
  @media (max-width: 1000px) {
    height: 62vh;
  }
`;
const Said = styled.div`
  padding: 4px 0;
  font-size: var(--note);
`;
const Side = styled.div`
  display: grid;
  gap: 12px;
  align-content: start;
  min-width: 0;
`;

/** The drive face to turn: as the book has it, as this engine is worn, one tooth off. */
export function FacePage() {
  const params = useParams();
  const jobId = params.id ? Number(params.id) : null;
  const job = useQuery({ ...jobQuery(jobId ?? 0), enabled: jobId !== null });
  const bookId = params.book ? Number(params.book) : job.data?.book_id;
  if (!bookId) return <Waiting error={jobId ? job.error : null} what="the engine" />;
  return <Face key={bookId} bookId={bookId} jobId={jobId} />;
}

function Face({ bookId, jobId }: { bookId: number; jobId: number | null }) {
  const book = useQuery(faceQuery(bookId));
  const [overlay, setOverlay] = useState<Overlay>("book");
  const [times, setTimes] = useState<"1" | "5" | "20">("5");
  const [contact, setContact] = useState("");
  const [teeth, setTeeth] = useState<"-2" | "-1" | "1" | "2">("1");
  const [plane, setPlane] = useState("main");
  const sought = useSearchParams()[0].get("part");
  const [before, setBefore] = useState(sought);
  const [chosen, setChosen] = useState(sought);
  if (sought !== before) {
    setBefore(sought);
    setChosen(sought);
  }
  const worn = useQuery({
    ...wornQuery(jobId ?? 0, Number(times)),
    enabled: overlay === "worn" && jobId !== null,
  });
  const contacts = book.data?.contacts ?? [];
  const where = contacts.find((c) => c.contact === contact) ?? contacts[1];
  const at = where?.contact ?? "";
  const off = useQuery({
    ...offQuery(bookId, where ?? { chain: "", sprocket: "" }, Number(teeth)),
    enabled: overlay === "off" && where !== undefined,
  });
  const turn = useMemo(
    () => (book.data ? new Turn(book.data.picture.service_deg) : null),
    [book.data],
  );
  if (!book.data || !turn) return <Waiting error={book.error} what="the drive face" />;
  const face = overlay === "worn" && worn.data ? worn.data : book.data;
  const picture = overlay === "off" && off.data ? off.data.picture : face.picture;
  const planes = picture.planes;
  const isWide = jobId === null;
  return (
    <>
      <StageHead title="Drive face">
        <Soft>Drag to turn; arrow keys 1° and 10°; choose a part to know it.</Soft>
      </StageHead>
      <Line>
        <Choice
          label="Show the engine"
          value={overlay}
          onChange={setOverlay}
          options={[
            { value: "book" as const, label: "as the book has it" },
            ...(jobId !== null ? [{ value: "worn" as const, label: "as it is worn" }] : []),
            { value: "off" as const, label: "one tooth off" },
          ]}
        />
        {overlay === "worn" && (
          <Choice
            label="Wear drawn"
            value={times}
            onChange={setTimes}
            options={[
              { value: "1", label: "×1" },
              { value: "5", label: "×5" },
              { value: "20", label: "×20" },
            ]}
          />
        )}
        {overlay === "off" && (
          <>
            <Chooser>
              <Select
                label="Set wrong"
                value={at}
                onChange={setContact}
                options={book.data.contacts.map((c) => ({ value: c.contact, label: c.name }))}
              />
            </Chooser>
            <Choice
              label="By"
              value={teeth}
              onChange={setTeeth}
              options={[
                { value: "-2", label: "2 early" },
                { value: "-1", label: "1 early" },
                { value: "1", label: "1 late" },
                { value: "2", label: "2 late" },
              ]}
            />
          </>
        )}
        {planes.length > 1 && (
          <Choice
            label="Seen from"
            value={plane}
            onChange={setPlane}
            options={planes.map((p) => ({ value: p.id, label: p.seen_from }))}
          />
        )}
      </Line>
      <Ground $wide={isWide}>
        <Stage $wide={isWide}>
          <TurningDrive
            picture={picture}
            lobes={face.lobes}
            plane={planes.some((p) => p.id === plane) ? plane : "main"}
            turn={turn}
            chosen={chosen}
            onChoose={setChosen}
            safe={{
              loose: face.safe_windows,
              piston: face.piston_windows,
              isKnown: face.clearance_known,
            }}
            label={`${picture.engine} ${picture.label}`}
          />
          <Said role="status">
            {overlay === "worn" && !face.is_known
              ? "No readings yet: wear unknown, drawn as the book has it"
              : picture.label}
          </Said>
        </Stage>
        <Side>
          <Sheet>
            <CrankPanel turn={turn} face={face} />
          </Sheet>
          {chosen && <PartSheet face={face} part={chosen} jobId={jobId} />}
          {overlay === "off" && off.error && <Waiting error={off.error} what="one tooth off" />}
          {overlay === "off" && off.data && (
            <Sheet>
              <OffReport data={off.data} />
            </Sheet>
          )}
          {overlay !== "off" && (
            <Sheet>
              <Returns face={face} turn={turn} />
            </Sheet>
          )}
          {overlay !== "off" && (
            <Sheet>
              <Legend face={face} />
            </Sheet>
          )}
        </Side>
      </Ground>
    </>
  );
}

const Chooser = styled.div`
  flex: 0 1 330px;
  min-width: 0;
`;
const Facts = styled.dl`
  margin: 0;
  display: grid;
  gap: 6px;
  font-size: var(--note);
  dt {
    color: var(--soft);
    font-size: var(--least);
  }
  dd {
    margin: 0;
  }
`;

/** All that is known of a part: from the book, and on a job what was found. */
function PartSheet({
  face,
  part,
  jobId,
}: {
  face: Schemas["TurningFace"];
  part: string;
  jobId: number | null;
}) {
  const job = useQuery({ ...jobQuery(jobId ?? 0), enabled: jobId !== null });
  const onJob = useQuery({ ...partQuery(jobId ?? 0, part), enabled: jobId !== null });
  const known = onJob.data ?? face.facts.find((f) => f.part === part);
  const phaser = face.picture.wheels.find((w) => w.part === part)?.phaser;
  const also = phaser ? face.facts.find((f) => f.part === phaser) : undefined;
  const state = job.data?.states.find((s) => s.part === part)?.state;
  if (!known) return null;
  return (
    <Sheet aria-label="Chosen part">
      <h2>{known.name}</h2>
      {state && (
        <div>
          On this engine: <strong>{state}</strong>
        </div>
      )}
      <Facts>
        {[...known.facts, ...(also?.facts ?? [])].map((f) => (
          <div key={f.label + f.value}>
            <dt>{f.label}</dt>
            <dd>{f.value}</dd>
          </div>
        ))}
      </Facts>
    </Sheet>
  );
}

function Legend({ face }: { face: Schemas["TurningFace"] }) {
  return (
    <>
      <h2>Lobes</h2>
      {face.lobes.length === 0 && <Soft>The book gives no valve data: lobes unknown.</Soft>}
      <Soft as="div">
        Filled: intake of cylinder 1. Open: exhaust. Dashed: the cylinder opposite. Blue band:
        travel of a phaser. Triangles: where a mark must stand; yellow when it does.
      </Soft>
    </>
  );
}
