import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { adviceQuery, readingsQuery, verdictQuery } from "../../api/queries";
import { LatenessLadder } from "../../drawing/LatenessLadder";
import { BuiltUp } from "../../drawing/BuiltUp";
import { Gauge, type Band } from "../../drawing/Gauge";
import { Walk } from "../../drawing/Walk";
import { WouldBe } from "../../drawing/WouldBe";
import { Button } from "../../kit/controls";
import { CareNote, Columns, Line, Sheet, Soft, StageHead, Unit, Waiting } from "../../kit/page";
import { percent } from "../../kit/words";
import { Across, Ends, PlainList, Said, Told } from "../../kit/text";
import { Decision } from "./Decision";
import { InShort } from "./InShort";
import { NextTest } from "./NextTest";
import { Schools } from "./Schools";
import { WhatIf } from "./WhatIf";
import { ORDINARY, useTrying } from "./trying";

const Suspects = styled.div`
  display: grid;
  gap: 2px;
`;
const Row = styled.button<{ $on: boolean }>`
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 2px 12px;
  align-items: center;
  min-height: 52px;
  padding: 6px 8px;
  border: none;
  text-align: left;
  background: ${({ $on }) => ($on ? "var(--enamel-tint)" : "transparent")};
  border-left: 4px solid ${({ $on }) => ($on ? "var(--enamel)" : "transparent")};
  cursor: pointer;
`;
const Share = styled.span`
  font-size: var(--bench);
  font-weight: 700;
  text-align: right;
`;
const Bar = styled.span<{ $share: number; $accused: boolean }>`
  grid-column: 2;
  height: 6px;
  background: linear-gradient(
    to right,
    ${({ $accused }) => ($accused ? "var(--ink)" : "var(--steel-light)")}
      ${({ $share }) => $share * 100}%,
    var(--line) 0
  );
`;
const Wear = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 10px;
  padding: 8px 0;
  border-top: 1px solid var(--line);
`;

const BAND_OF: Record<Schemas["WearState"], Band> = {
  over: "replace",
  within: "fine",
  open: "marginal",
};

export function Verdict() {
  const id = Number(useParams().id);
  const verdict = useQuery(verdictQuery(id));
  const readings = useQuery(readingsQuery(id));
  const [chosen, setChosen] = useState<string | null>(null);
  const [school, setSchool] = useState(ORDINARY);
  const { trying, count, leave, put, stop } = useTrying();
  const isOn = count > 0;
  const advice = useQuery(
    adviceQuery(id, { school, left_out: trying.leftOut, changed: trying.changed }),
  );
  if (!verdict.data) return <Waiting error={verdict.error} what="the verdict" />;
  const v = (isOn && advice.data?.verdict) || verdict.data.verdict;
  const shown = v.suspects.filter((s) => s.is_shown);
  const suspect = v.suspects.find((s) => s.key === chosen) ?? v.suspects[0];
  return (
    <>
      <StageHead title={v.headline}>
        <Soft>
          Judged against {v.judged_against}, from {v.readings_used} readings
        </Soft>
      </StageHead>
      <Sheet>
        {v.readings_used === 0 && <Link to={`/jobs/${id}/readings`}>Take readings first</Link>}
        {advice.data && <InShort advice={advice.data.advice} />}
        {isOn && (
          <CareNote title="A what-if: this is not what was read">
            <Line $align="center">
              <span>{count} changed.</span>
              <Button onPress={stop}>Back to what was read</Button>
            </Line>
          </CareNote>
        )}
        {v.contradictions.length > 0 && (
          <CareNote title="Readings that contradict">
            {v.contradictions.map((c) => (
              <div key={c}>{c}</div>
            ))}
          </CareNote>
        )}
        {v.apart && <CareNote title="Not settled">{v.apart}</CareNote>}
        {v.advice.length + v.unused.length > 0 && (
          <CareNote title="What is not known">
            {[...v.advice, ...v.unused].map((a) => (
              <div key={a}>{a}</div>
            ))}
          </CareNote>
        )}
      </Sheet>
      {readings.data && readings.data.ladder_drawings.length > 0 && (
        <LatenessLadder drawings={readings.data.ladder_drawings} />
      )}
      {v.out_of_tolerance.length > 0 && <OutOfTolerance figures={v.out_of_tolerance} />}
      {advice.data ? (
        <Columns $of="minmax(0, 5fr) minmax(0, 7fr)">
          <NextTest jobId={id} advice={advice.data.advice} />
          <Decision jobId={id} found={advice.data} isTrying={isOn} />
        </Columns>
      ) : (
        <Waiting error={advice.error} what="what to do" />
      )}
      <Columns $of="minmax(0, 1fr) minmax(0, 1fr)">
        <Sheet>
          <h2>Suspects</h2>
          <Suspects>
            {shown.map((s) => (
              <Row
                key={s.key}
                $on={s.key === suspect?.key}
                onClick={() => setChosen(s.key)}
                aria-pressed={s.key === suspect?.key}
              >
                <Share>{percent(s.probability)}</Share>
                <span>
                  {s.name}
                  {s.detail ? `, ${s.detail}` : ""}
                </span>
                <Bar $share={s.probability} $accused={s.is_accused} aria-hidden />
              </Row>
            ))}
          </Suspects>
          {v.others && <Soft>{v.others}</Soft>}
          {v.readings_used > 0 && (
            <Soft>
              {v.none_of_these.words} {v.left_out.words}
            </Soft>
          )}
        </Sheet>
        {suspect && <EvidenceSheet suspect={suspect} />}
      </Columns>
      {v.only_age.length > 0 && <OnlyAge suspects={v.only_age} />}
      <Sheet>
        <h2>Wear against the limit</h2>
        <Soft>
          Bar: likeliest wear. Blue: where it lies nine times in ten. Tick: the book&apos;s limit.
        </Soft>
        <Columns $of="1fr 1fr" as={PlainList}>
          {v.wear.map((w) => (
            <Wear key={w.key}>
              <strong>{w.name}</strong>
              <Said $size={20}>
                {w.median.toFixed(2)}
                <Unit>{w.unit}</Unit>
              </Said>
              <Soft>
                {w.low.toFixed(2)} to {w.high.toFixed(2)} {w.unit}, limit {w.limit} {w.unit}
              </Soft>
              <Said $tone={w.state === "over" ? "stop" : "soft"} $size={15}>
                {w.judged}
              </Said>
              <Across>
                <Gauge
                  share={w.median / w.limit}
                  low={w.low / w.limit}
                  high={w.high / w.limit}
                  band={BAND_OF[w.state]}
                />
              </Across>
            </Wear>
          ))}
        </Columns>
      </Sheet>
      {advice.data && (
        <>
          <WhatIf
            readings={advice.data.readings}
            trying={trying}
            isOn={isOn}
            onLeave={leave}
            onPut={put}
            onStop={stop}
          />
          <Schools jobId={id} school={school} found={advice.data} onChange={setSchool} />
        </>
      )}
    </>
  );
}

function OutOfTolerance({ figures }: { figures: Schemas["OutOfTolerance"][] }) {
  return (
    <Sheet>
      <h2>Out of tolerance, and what makes it so</h2>
      <Soft>
        Each plate begins where the last one ended. Blue: nine times in ten. Tick: what the book
        allows.
      </Soft>
      <Columns $of="repeat(auto-fit, minmax(min(100%, 460px), 1fr))">
        {figures.map((figure) => (
          <div key={figure.reading + figure.part}>
            <Ends>
              <h3>{figure.name}</h3>
              <Said $size={20} $tone="stop" $isWhole>
                {figure.late} <Soft as="span">of ±{figure.limit}°</Soft>
              </Said>
            </Ends>
            <BuiltUp figure={figure} />
          </div>
        ))}
      </Columns>
    </Sheet>
  );
}

function OnlyAge({ suspects }: { suspects: Schemas["Suspect"][] }) {
  return (
    <Sheet>
      <h2>Nobody has looked at these: only age speaks</h2>
      <Columns $of="repeat(auto-fit, minmax(min(100%, 340px), 1fr))" as={PlainList}>
        {suspects.map((s) => (
          <Ends as="li" $keeps key={s.key}>
            <span>{s.name}</span>
            <Told as="span" $tone="soft" $isWhole>
              {percent(s.probability)}
            </Told>
          </Ends>
        ))}
      </Columns>
    </Sheet>
  );
}

function EvidenceSheet({ suspect }: { suspect: Schemas["Suspect"] }) {
  const { expected } = suspect;
  return (
    <Sheet>
      <h2>{suspect.name}</h2>
      <Soft>
        Before any reading {percent(suspect.prior)}, now {percent(suspect.probability)}. Each plate:
        how the odds move by that reading, the others known; to the right for it, to the left
        against.
      </Soft>
      <Walk evidence={suspect.evidence} />
      {expected.length > 0 && (
        <>
          <h3>
            {expected[0]?.is_alone
              ? "If this alone were wrong"
              : "If this were wrong, with what goes with it"}
          </h3>
          <WouldBe expected={expected} />
        </>
      )}
    </Sheet>
  );
}
