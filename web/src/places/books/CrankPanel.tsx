import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useKeys } from "../../app/keys";
import { useCrank, type Turn } from "../../drawing/turn/turn";
import { Button, Field } from "../../kit/controls";
import { Line, Soft, Unit } from "../../kit/page";
import { Rest, Told } from "../../kit/text";

const Deg = styled.output`
  font-size: var(--figure);
  line-height: 1;
  font-weight: 700;
  font-variant-numeric: tabular-nums;
`;
const Steps = styled.div`
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
  button {
    padding: 8px 4px;
  }
`;
const LOOKS = { safe: "--enamel", risk: "--red", unknown: "--ochre" };
const Says = styled.div<{ $look: "safe" | "risk" | "unknown" }>`
  border-left: 6px solid var(${({ $look }) => LOOKS[$look]});
  padding: 8px 12px;
  background: var(${({ $look }) => LOOKS[$look]}-tint);
`;

/** Where the crank stands, how to turn it, and what that means for loose cams. */
export function CrankPanel({ turn, face }: { turn: Turn; face: Schemas["TurningFace"] }) {
  const [typed, setTyped] = useState("");
  const [wrong, setWrong] = useState("");
  useKeys({
    ArrowRight: () => turn.by(1),
    ArrowLeft: () => turn.by(-1),
    ArrowUp: () => turn.by(10),
    ArrowDown: () => turn.by(-10),
    Home: () => turn.to(turn.service),
  });
  function onGo() {
    const value = Number(typed.replace(/°|deg/g, "").replace(",", ".").trim());
    if (!typed.trim() || !Number.isFinite(value) || value < 0 || value >= 720) {
      setWrong(`Read “${typed}”, expected an angle from 0 to below 720, such as 45 or 412.5.`);
      return;
    }
    setWrong("");
    turn.to(value);
  }
  return (
    <>
      <div>
        <Soft as="span">Crank</Soft>
        <div>
          <Standing turn={turn} />
        </div>
      </div>
      <Steps>
        <Button aria-label="10 degrees back" onPress={() => turn.by(-10)}>
          −10°
        </Button>
        <Button aria-label="1 degree back" onPress={() => turn.by(-1)}>
          −1°
        </Button>
        <Button aria-label="1 degree on" onPress={() => turn.by(1)}>
          +1°
        </Button>
        <Button aria-label="10 degrees on" onPress={() => turn.by(10)}>
          +10°
        </Button>
      </Steps>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onGo();
        }}
      >
        <Line $keeps>
          <Rest>
            <Field label="Turn on to" value={typed} onChange={setTyped} inputMode="decimal" />
          </Rest>
          <Button type="submit">Go</Button>
        </Line>
        {wrong && (
          <Told role="alert" $tone="stop" $size={15}>
            {wrong}
          </Told>
        )}
      </form>
      <Button onPress={() => turn.to(turn.service)}>Service position, {turn.service}°</Button>
      <TurnedBack turn={turn} />
      <SafeWords face={face} turn={turn} />
    </>
  );
}

// Each of the next three alone is drawn anew while the crank turns: the buttons above stay as they
// are.

function Standing({ turn }: { turn: Turn }) {
  const { deg } = useCrank(turn);
  return (
    <Deg aria-label="Crank angle">
      {deg.toFixed(1)}
      <Unit $size={20}>° of 720</Unit>
    </Deg>
  );
}

const Turns = styled.table`
  width: 100%;
  font-size: var(--note);
  border-collapse: collapse;
  tr {
    border-top: 1px solid var(--line);
  }
  th {
    text-align: left;
    font-weight: 400;
    padding: 4px 0;
  }
  td {
    text-align: right;
    white-space: nowrap;
  }
`;

function TurnedBack({ turn }: { turn: Turn }) {
  const { back } = useCrank(turn);
  if (back <= 0) return null;
  return (
    <div role="status">
      <strong>Turned back {back.toFixed(1)}°.</strong>{" "}
      <Soft as="span">
        The slack goes over to the other strand; the cams follow only when it is used up. Finish
        every movement forwards.
      </Soft>
    </div>
  );
}

function SafeWords({ face, turn }: { face: Schemas["TurningFace"]; turn: Turn }) {
  const here = useCrank(turn).deg % 360;
  const risk = [...face.risk].reverse().find((r) => r.crank_deg <= here);
  // Nothing found is unknown, never safe.
  if (!face.clearance_known || !risk)
    return (
      <Says $look="unknown" role="status">
        <strong>{face.clearance_words}</strong>
      </Says>
    );
  const kept = face.reserve && <Soft>Reserve: {face.reserve.words}.</Soft>;
  return (
    <Says $look={risk.look} role="status">
      <strong>{risk.title}</strong> {risk.words}
      {kept}
    </Says>
  );
}

/** How many turns until marks stand as they stood, and how many are done. */
export function Returns({ face, turn }: { face: Schemas["TurningFace"]; turn: Turn }) {
  const { turns } = useCrank(turn, 0);
  return (
    <div>
      <h2>Marks agree again</h2>
      <Turns>
        <tbody>
          {[...face.turns, { part: "all", name: "All together", turns: face.turns_for_all }].map(
            (line) => (
              <tr key={line.part}>
                <th scope="row">{line.name}</th>
                <td>
                  after <strong>{line.turns}</strong> {line.turns === 1 ? "turn" : "turns"}
                </td>
              </tr>
            ),
          )}
        </tbody>
      </Turns>
      <Soft>
        {turns === 0
          ? "Counted in crank turns from the service position."
          : `${countOf(turns)} ${turns > 0 ? "on" : "back"} from the service position now.`}
      </Soft>
    </div>
  );
}

function countOf(turns: number): string {
  return `${Math.abs(turns)} ${Math.abs(turns) === 1 ? "turn" : "turns"}`;
}
