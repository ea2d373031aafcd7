import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Check, Choice } from "../../kit/controls";
import { Big, CareNote, Line, Sheet, Soft, Waiting } from "../../kit/page";
import { Select } from "../../kit/Select";
import { SaidAlone } from "../../kit/text";

/**
 * What is asked: chains off (all until one is chosen), the book's way of holding, phasers seen in
 * park.
 */
export interface Off {
  chains: string[] | null;
  hold: number | null;
  isParked: boolean;
}
interface Props {
  data: Schemas["ClearanceView"];
  chosen: string[];
  off: Off;
  onChange: (to: Off) => void;
  view: Schemas["OffView"] | undefined;
  error: Error | null;
}
const Far = styled.div`
  display: flex;
  gap: 28px;
  align-items: baseline;
  flex-wrap: wrap;
  span {
    color: var(--soft);
    font-size: var(--note);
  }
`;
const Cam = styled.div`
  border-top: 1px solid var(--line);
  padding-top: 6px;
`;

/**
 * Any set of chains off in the service position: how far the crank may turn, and what the freed
 * cams do.
 */
export function ChainsOff({ data, chosen, off, onChange, view, error }: Props) {
  const onChain = (key: string, isOff: boolean) =>
    onChange({
      ...off,
      chains: Object.keys(data.chains).filter((c) => (c === key ? isOff : chosen.includes(c))),
    });
  return (
    <Sheet>
      <h2>With chains off in the service position, {data.service_deg}°</h2>
      <Line role="group" aria-label="Chains that are off">
        {Object.entries(data.chains).map(([key, name]) => (
          <Check key={key} isSelected={chosen.includes(key)} onChange={(on) => onChain(key, on)}>
            {name}
          </Check>
        ))}
      </Line>
      <Line>
        <Select
          label="Cams held by"
          value={String(off.hold ?? "")}
          onChange={(v) => onChange({ ...off, hold: v === "" ? null : Number(v) })}
          options={[
            { value: "", label: "nothing" },
            ...data.holdings.map((h) => ({ value: String(h.index), label: h.name })),
          ]}
        />
        {data.has_phasers && (
          <Choice
            label="Phasers"
            value={off.isParked ? "parked" : "any"}
            onChange={(v) => onChange({ ...off, isParked: v === "parked" })}
            options={[
              { value: "any", label: "not looked at" },
              { value: "parked", label: "seen locked in park" },
            ]}
          />
        )}
      </Line>
      {off.hold !== null && <Soft>{data.holdings[off.hold]?.text}</Soft>}
      {chosen.length === 0 ? (
        <Soft>Choose the chains that come off.</Soft>
      ) : !view ? (
        <Waiting error={error} what="how far the crank may turn" />
      ) : (
        <Answer view={view} data={data} />
      )}
    </Sheet>
  );
}

function Answer({ view, data }: { view: Schemas["OffView"]; data: Schemas["ClearanceView"] }) {
  const isNone = view.back_deg === 0 && view.on_deg === 0;
  const isFree = view.back_deg <= -360 && view.on_deg >= 360;
  return (
    <>
      <div role="status">
        {isNone ? (
          <Big $tone="stop">■ Do not turn the crank</Big>
        ) : (
          <Far>
            <div>
              <span>back</span> <Big>{isFree ? "free" : `${-view.back_deg}°`}</Big>
            </div>
            <div>
              <span>on</span> <Big>{isFree ? "free" : `${view.on_deg}°`}</Big>
            </div>
            <span>{isFree ? "nothing comes near in a whole turn" : "and no further"}</span>
          </Far>
        )}
        {view.limits.map((t) => (
          <div key={`${t.what} ${t.turn_deg}`}>
            {t.what}:{" "}
            {t.room_mm === null
              ? "unknown, treat as touching"
              : t.room_mm <= 0
                ? "meets"
                : `${t.room_mm} mm left`}
            {t.turn_deg
              ? ` at ${Math.abs(t.turn_deg).toFixed(0)}° ${t.turn_deg < 0 ? "back" : "on"}`
              : " with the crank where it is"}
          </div>
        ))}
      </div>
      <Soft>
        {view.assumes}
        {data.reserve && ` Reserve: ${data.reserve.words}.`}
      </Soft>
      {view.swings.map((s) => (
        <Cam key={s.name}>
          <strong>{s.name}</strong> {s.words}.
          {s.meets.length > 0 && (
            <SaidAlone $tone="stop">■ hold it before the chain comes off</SaidAlone>
          )}
          {s.may_move && s.meets.length === 0 && (
            <SaidAlone $tone="care">▲ fingers clear as the chain comes off</SaidAlone>
          )}
        </Cam>
      ))}
      {view.swings.length === 0 && (
        <CareNote title="No cam comes free">
          With these chains off every cam is still tied to the crank.
        </CareNote>
      )}
    </>
  );
}
