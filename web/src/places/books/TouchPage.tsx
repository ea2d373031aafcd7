import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useBookId } from "./bookId";
import { clearanceQuery, looseQuery, touchQuery } from "../../api/bookQueries";
import type { Schemas } from "../../api/client";
import { TouchMap, type Standing } from "../../drawing/TouchMap";
import { Choice } from "../../kit/controls";
import {
  Big,
  CareNote,
  Columns,
  Line,
  Sheet,
  Soft,
  StageHead,
  Stack,
  StopNote,
  Waiting,
} from "../../kit/page";
import { Select } from "../../kit/Select";
import { ChainsOff, type Off } from "./ChainsOff";
import { TeethOff } from "./TeethOff";
import { Said } from "../../kit/text";

/** Where valves would touch, how far the crank may go with chains off, which way cams swing. */
export function TouchPage() {
  const id = useBookId();
  const clearance = useQuery(clearanceQuery(id));
  const [cam, setCam] = useState("any");
  const [span, setSpan] = useState<"120" | "360">("120");
  const [stood, setStood] = useState<Standing | null>(null);
  const [off, setOff] = useState<Off>({ chains: null, hold: null, isParked: false });
  const map = useQuery(touchQuery(id, cam));
  const data = clearance.data;
  const chains = off.chains ?? Object.keys(data?.chains ?? {});
  const loose = useQuery({
    ...looseQuery(id, chains, off.hold, off.isParked),
    enabled: Boolean(data?.is_known) && chains.length > 0,
    placeholderData: keepPreviousData,
  });
  if (!data || !map.data)
    return <Waiting error={clearance.error ?? map.error} what="the touch map" />;
  const here = stood ?? { crank: data.service_deg, late: 0 };
  const cams = [...new Map(data.teeth.map((t) => [t.cam, t.cam_name]))];
  const tooth = data.teeth.find((t) => t.cam === cam)?.tooth_deg ?? null;
  const shown = chains.length > 0 ? loose.data : undefined;
  return (
    <>
      <StageHead title="Touch map">
        {data.reserve && (
          <Soft>
            Reserve in every figure: <strong>{data.reserve.words}</strong>
          </Soft>
        )}
      </StageHead>
      {data.is_known ? (
        <CareNote title={data.words}>
          The maker&apos;s service information comes first. This assumes the book&apos;s valves,
          pistons and head as made; planed heads and other pistons change it.
        </CareNote>
      ) : (
        <StopNote title="Clearance unknown: treat as touching">
          {data.words} Turn nothing with a chain off unless the maker&apos;s information says so.
        </StopNote>
      )}
      <Columns $of="minmax(0, 1fr) 300px">
        <Sheet>
          <Line>
            <Select
              label="Cam that is late or early"
              value={cam}
              onChange={setCam}
              options={[
                { value: "any", label: "any cam" },
                ...cams.map(([value, label]) => ({ value, label })),
              ]}
            />
            <Choice
              label="Lateness shown"
              value={span}
              onChange={setSpan}
              options={[
                { value: "120", label: "±120°" },
                { value: "360", label: "±360°" },
              ]}
            />
          </Line>
          <TouchMap
            map={map.data}
            loose={data.loose_windows}
            piston={data.piston_windows}
            service={data.service_deg}
            here={here}
            onMove={setStood}
            toothDeg={tooth}
            span={Number(span)}
            off={shown ? { back: shown.back_deg, on: shown.on_deg } : null}
          />
          <Legend heads={data.heads} isKnown={data.is_known} />
        </Sheet>
        <Stack $gap={12}>
          <Here map={map.data} here={here} data={data} tooth={tooth} />
          {data.is_known && (
            <Sheet>
              <h2>In the service position</h2>
              {data.at_service.length === 0 ? (
                <div>No cylinder at risk from its piston.</div>
              ) : (
                data.at_service.map((w) => <div key={w}>{w}</div>)
              )}
              <Soft>{data.heads.words}</Soft>
            </Sheet>
          )}
        </Stack>
      </Columns>
      {data.is_known && (
        <Columns $of="minmax(0, 1fr) minmax(0, 1fr)">
          <ChainsOff
            data={data}
            chosen={chains}
            off={off}
            onChange={setOff}
            view={shown}
            error={loose.error}
          />
          <TeethOff kinds={data.teeth_kinds} reserveMm={data.reserve?.room_mm ?? null} />
        </Columns>
      )}
    </>
  );
}

function Legend({ heads, isKnown }: { heads: Schemas["HeadsView"]; isKnown: boolean }) {
  if (!isKnown) return null;
  return (
    <Soft>
      Red: a valve meets its piston{heads.state === "none" ? "" : " or the valve beside it"}. Ochre:
      it comes within the reserve.{" "}
      {!heads.may_meet
        ? "Green: crank angles at which every cam may be loose."
        : "Between dashed lines no valve reaches a piston, but two of a cylinder may meet."}{" "}
      Blue line: how far the crank may turn with the chains below off.
    </Soft>
  );
}

function Here({
  map,
  here,
  data,
  tooth,
}: {
  map: Schemas["TouchMap"];
  here: Standing;
  data: Schemas["ClearanceView"];
  tooth: number | null;
}) {
  // A cell speaks for all of itself: whatever lies between two rows is in one of them.
  const row = map.rows.find((r) => r.late_deg === Math.round(here.late / 3) * 3);
  const holds = (spans: number[][]) =>
    spans.some(([a = 0, b = 0]) => here.crank >= a && here.crank < b);
  const risk = [...data.risk].reverse().find((r) => r.crank_deg <= here.crank % 360);
  return (
    <Sheet>
      <h2>Where you stand</h2>
      <Big>{here.crank}°</Big>
      <div>
        cam{" "}
        {here.late === 0
          ? "as the book"
          : `${Math.abs(here.late)}° ${here.late > 0 ? "late" : "early"}`}
        {tooth && here.late !== 0 ? `, ${(Math.abs(here.late) / tooth).toFixed(1)} teeth` : ""}
      </div>
      <div role="status">
        {!map.is_known || !row ? (
          <Said $tone="care">▲ unknown: treat as touching</Said>
        ) : holds(row.touches) ? (
          <Said $tone="stop">■ a valve touches here</Said>
        ) : holds(row.near) ? (
          <Said $tone="care">▲ within the reserve: treat as touching</Said>
        ) : (
          <Said $tone="fine">✓ nothing touches here</Said>
        )}
      </div>
      {map.is_known && (
        <Soft>
          {risk
            ? `${risk.title} ${risk.words}`
            : "Unknown what loose cams may meet here: treat as touching."}
        </Soft>
      )}
      <Soft>Drag the yellow spot or use the arrow keys on it.</Soft>
    </Sheet>
  );
}
