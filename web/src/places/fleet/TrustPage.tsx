import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { calibrationQuery } from "../../api/fleetQueries";
import { Sheet, Soft, StageHead, Waiting } from "../../kit/page";
import { PlainList } from "../../kit/text";
import { Frame } from "./Frame";

const Row = styled.div`
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr) 230px;
  gap: 4px 16px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 8px 0;
  @media (max-width: 700px) {
    grid-template-columns: 110px minmax(0, 1fr);
    & > :last-child {
      grid-column: 1 / -1;
    }
  }
`;
const Track = styled.div`
  position: relative;
  height: 30px;
  background: linear-gradient(var(--line), var(--line)) 0 50% / 100% 1px no-repeat;
`;
const Said90 = styled.div<{ $low: number; $high: number }>`
  position: absolute;
  top: 6px;
  height: 18px;
  left: ${({ $low }) => 100 * $low}%;
  width: ${({ $low, $high }) => 100 * ($high - $low)}%;
  background: var(--enamel-tint);
  border: 1px solid var(--enamel);
`;
const Found = styled.div<{ $at: number; $isOff: boolean }>`
  position: absolute;
  top: 1px;
  width: 6px;
  height: 28px;
  margin-left: -3px;
  left: ${({ $at }) => 100 * $at}%;
  background: ${({ $isOff }) => ($isOff ? "var(--red)" : "var(--blue)")};
`;

/** What the shop said against what it found in the parts, and how much each way of reading errs. */
export function TrustPage() {
  const found = useQuery(calibrationQuery);
  if (!found.data)
    return (
      <Frame>
        <Waiting error={found.error} what="what was found" />
      </Frame>
    );
  const c = found.data;
  return (
    <Frame>
      <StageHead title={c.headline}>
        <Soft>
          {c.jobs} {c.jobs === 1 ? "job" : "jobs"} with parts measured after a verdict
        </Soft>
      </StageHead>
      <Sheet>
        <h2>Said over its limit, and found so</h2>
        {c.parts === 0 && (
          <Soft>
            Nothing yet. Measure chains and liners once they are off, on the job’s Readings page:
            from then on what was said of them is held against what they were.
          </Soft>
        )}
        {c.parts > 0 &&
          c.bins.map((bin) => (
            <Row key={bin.low}>
              <strong>
                {Math.round(100 * bin.low)} to {Math.round(100 * bin.high)} %
              </strong>
              <Track aria-hidden>
                <Said90 $low={bin.low} $high={bin.high} />
                {bin.parts > 0 && <Found $at={bin.over / bin.parts} $isOff={bin.is_off} />}
              </Track>
              <span>{bin.words}</span>
            </Row>
          ))}
        <Soft hidden={c.parts === 0}>
          Box: what the verdict said; stroke: how many of those parts were over. Red where chance
          alone would hardly make it so.
        </Soft>
      </Sheet>
      <Sheet>
        <h2>Which readings can be trusted</h2>
        <PlainList $gap="6px">
          {c.words.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </PlainList>
        <Soft>
          By it every verdict of a job opened since takes those readings as they err here, shrunk to
          what they say of themselves while few were held against parts.
        </Soft>
      </Sheet>
    </Frame>
  );
}
