import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { clearanceQuery, touchQuery } from "../../api/bookQueries";
import type { Schemas } from "../../api/client";
import { TouchMap, type Standing } from "../../drawing/TouchMap";
import { Choice } from "../../kit/controls";
import { Big, CareNote, Columns, Line, Sheet, Soft, StageHead, StopNote, Waiting } from "../../kit/page";
import { Select } from "../../kit/Select";

/** Where valves would touch, how far the crank may go with a chain off, which way cams jump. */
export function TouchPage() {
  const id = Number(useParams().book);
  const clearance = useQuery(clearanceQuery(id));
  const [cam, setCam] = useState("any");
  const [span, setSpan] = useState<"120" | "360">("120");
  const [stood, setStood] = useState<Standing | null>(null);
  const [without, setWithout] = useState("");
  const map = useQuery(touchQuery(id, cam));
  const data = clearance.data;
  if (!data || !map.data) return <Waiting error={clearance.error ?? map.error} what="the touch map" />;
  const here = stood ?? { crank: data.service_deg, late: 0 };
  const cams = [...new Map(data.teeth.map((t) => [t.cam, t.cam_name]))];
  const tooth = data.teeth.find((t) => t.cam === cam)?.tooth_deg ?? null;
  const off = data.chains_off.find((c) => c.chain === without);
  return (
    <>
      <StageHead title="Touch map"><Soft>Drag the yellow spot or use the arrow keys on it.</Soft></StageHead>
      {data.is_known ? (
        <CareNote title={data.words}>The maker&apos;s service information comes first. This assumes the book&apos;s valves, pistons and head as made; planed heads and other pistons change it.</CareNote>
      ) : (
        <StopNote title="Clearance unknown: treat as touching">{data.words} Turn nothing with a chain off unless the maker&apos;s information says so.</StopNote>
      )}
      <Columns $of="minmax(0, 1fr) 300px">
        <Sheet style={{ padding: 10 }}>
          <Line>
            <Select label="Cam that is late or early" value={cam} onChange={setCam} options={[{ value: "any", label: "any cam" }, ...cams.map(([value, label]) => ({ value, label }))]} />
            <Choice label="Lateness shown" value={span} onChange={setSpan} options={[{ value: "120", label: "±120°" }, { value: "360", label: "±360°" }]} />
            {data.chains_off.length > 0 && (
              <Select label="Its cams stand, chain off" value={without} onChange={setWithout} options={[{ value: "", label: "none" }, ...data.chains_off.map((c) => ({ value: c.chain, label: c.name }))]} />
            )}
          </Line>
          <TouchMap
            map={map.data} windows={data.loose_windows} service={data.service_deg} here={here} onMove={setStood} toothDeg={tooth} span={Number(span)}
            off={off ? { back: Math.max(off.back_deg, -360), on: Math.min(off.on_deg, 360) } : null}
          />
          <Soft>Hatched red: a valve meets its piston. Green: crank angles at which every cam may be loose. Blue line: how far the crank may turn while the chosen chain&apos;s cams stand.</Soft>
        </Sheet>
        <div style={{ display: "grid", gap: 12 }}>
          <Here map={map.data} here={here} data={data} tooth={tooth} />
          {off && <Sheet><h2>{off.name} off</h2><div>From the service position: {off.words}.</div><Soft>{off.cams.join(", ")} standing still.</Soft></Sheet>}
          {data.is_known && <Sheet><h2>In the service position</h2>{data.at_service.length === 0 ? <div>No cylinder at risk.</div> : data.at_service.map((w) => <div key={w}>{w}</div>)}</Sheet>}
        </div>
      </Columns>
      {data.is_known && <Columns $of="minmax(0, 1fr) minmax(0, 1fr)"><Jumps data={data} /><Teeth data={data} /></Columns>}
      {data.is_known && (
        <Sheet>
          <h2>How far the crank may turn from the service position</h2>
          {data.chains_off.map((c) => <div key={c.chain}><strong>{c.name} off</strong>: {c.words}.</div>)}
        </Sheet>
      )}
    </>
  );
}

function Here({ map, here, data, tooth }: { map: Schemas["TouchMap"]; here: Standing; data: Schemas["ClearanceView"]; tooth: number | null }) {
  const row = map.rows.find((r) => r.late_deg === Math.round(here.late / 3) * 3);
  const isTouching = row?.touches.some(([a = 0, b = 0]) => here.crank >= a && here.crank < b) ?? false;
  const risk = [...data.risk].reverse().find((r) => r.crank_deg <= here.crank % 360)?.cylinders ?? [];
  return (
    <Sheet>
      <h2>Where you stand</h2>
      <Big>{here.crank}°</Big>
      <div>cam {here.late === 0 ? "as the book" : `${Math.abs(here.late)}° ${here.late > 0 ? "late" : "early"}`}{tooth && here.late !== 0 ? `, ${(Math.abs(here.late) / tooth).toFixed(1)} teeth` : ""}</div>
      <div role="status">
        {!map.is_known ? <strong style={{ color: "var(--ochre)" }}>▲ unknown: treat as touching</strong>
          : isTouching ? <strong style={{ color: "var(--red)" }}>■ a valve meets its piston here</strong>
          : <strong style={{ color: "var(--enamel)" }}>✓ nothing touches here</strong>}
      </div>
      {map.is_known && <Soft>{risk.length ? `With loose cams, cylinder ${risk.join(", ")} at risk at this crank angle.` : "Every cam may be loose at this crank angle."}</Soft>}
    </Sheet>
  );
}

function Jumps({ data }: { data: Schemas["ClearanceView"] }) {
  const [school, setSchool] = useState(0);
  const view = data.schools[school] ?? data.schools[0];
  if (!view) return null;
  return (
    <Sheet>
      <h2>When a chain comes off in the service position</h2>
      <Choice label="Held by" value={String(school)} onChange={(v) => setSchool(Number(v))} options={data.schools.map((s, i) => ({ value: String(i), label: s.name }))} />
      <Soft>{view.text}</Soft>
      {view.jumps.map((j) => (
        <div key={j.cam} style={{ borderTop: "1px solid var(--line)", paddingTop: 6 }}>
          <strong>{j.name}</strong> {j.words}.
          {j.touches.length > 0 && <strong style={{ color: "var(--red)", display: "block" }}>■ fingers and valves: hold it before the chain comes off</strong>}
        </div>
      ))}
    </Sheet>
  );
}

function Teeth({ data }: { data: Schemas["ClearanceView"] }) {
  const seen = [...new Map(data.teeth.map((t) => [`${t.cam} ${t.kind}`, t])).values()];
  const words = (k: number | null) => (k === null ? "not up to 12" : `${k} ${k === 1 ? "tooth" : "teeth"}`);
  return (
    <Sheet>
      <h2>Teeth off until valves touch</h2>
      <Soft>Turned by hand with phasers parked; running, a phaser may bring it nearer.</Soft>
      {seen.map((t) => {
        const cylinders = data.teeth.filter((o) => o.cam === t.cam && o.kind === t.kind).map((o) => o.cylinder);
        const isNear = t.early === 1 || t.late === 1;
        return (
          <div key={`${t.cam} ${t.kind}`} style={{ borderTop: "1px solid var(--line)", paddingTop: 6 }}>
            <div><strong>{t.cam_name}</strong>, {t.kind} valves {isNear && <strong style={{ color: "var(--red)" }}>■ one tooth is enough</strong>}</div>
            <div>early: <strong>{words(t.early)}</strong> · late: <strong>{words(t.late)}</strong></div>
            {(t.phased_early !== t.early || t.phased_late !== t.late) && <Soft>running: early {words(t.phased_early)}, late {words(t.phased_late)}</Soft>}
            <Soft>{t.tooth_deg.toFixed(1)}° of the crank a tooth; bends {t.kind} valves of cylinder {cylinders.join(", ")}.</Soft>
          </div>
        );
      })}
    </Sheet>
  );
}
