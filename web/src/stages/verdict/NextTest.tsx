import styled from "styled-components";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { Sheet, Soft, Unit } from "../../kit/page";
import { Ends, PlainList, Ruled, Said, Told } from "../../kit/text";
import { hours, percent } from "../../kit/words";

const Name = styled.p`
  font-size: var(--bench);
  font-weight: 700;
  line-height: 1.2;
`;
const Means = styled.li`
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr);
  gap: 0 12px;
  padding: 8px 0;
  border-top: 1px solid var(--line);
`;

/** Where a test is recorded, under a job's pages. */
function placeOf(kind: string) {
  if (kind === "codes") return "intake";
  if (kind === "sweep") return "readings/sweep";
  return kind === "capture" ? "readings" : `readings/sheet/${kind}`;
}

interface Props {
  jobId: number;
  advice: Schemas["Advice"];
}

/** The test that would change what to do by most for its minutes, and what its outcomes mean. */
export function NextTest({ jobId, advice }: Props) {
  const [best, ...rest] = advice.next_tests;
  const worth = advice.is_time_to_decide ? undefined : best;
  return (
    <Sheet aria-label="Next test" id="next-test">
      <h2>Next test</h2>
      {worth ? (
        <>
          <Name>{worth.name}</Name>
          <Ends>
            <span>
              <Said $size={20}>{hours(worth.minutes)}</Said>
              {worth.waiting_minutes > 0 && (
                <Soft as="span"> and {hours(worth.waiting_minutes)} of waiting</Soft>
              )}
            </span>
            <Soft as="span">{worth.needs.join(", ")}</Soft>
          </Ends>
          <PlainList>
            {worth.outcomes.map((outcome) => (
              <Means key={outcome.words + outcome.then}>
                <Said>{percent(outcome.odds)}</Said>
                <span>
                  {outcome.words}: <strong>{outcome.then}</strong>
                </span>
              </Means>
            ))}
          </PlainList>
          <Soft>
            {worth.worth} <Link to={`/jobs/${jobId}/${placeOf(worth.kind)}`}>Record it</Link>
          </Soft>
        </>
      ) : (
        <Name>{advice.when_to_stop}</Name>
      )}
      <Others
        tests={(worth ? rest : advice.next_tests)
          .filter((t) => t.gain >= 5 && t.gain_per_minute >= 0.1)
          .slice(0, 4)}
      />
    </Sheet>
  );
}

function Others({ tests }: { tests: Schemas["NextTest"][] }) {
  if (!tests.length) return null;
  return (
    <Ruled>
      <Soft>After it, by what a minute of it saves</Soft>
      <PlainList $gap="4px">
        {tests.map((test) => (
          <Ends as="li" $keeps key={test.test}>
            <span>{test.name}</span>
            <Told as="span" $isWhole>
              {test.gain_per_minute.toFixed(1)}
              <Unit>a min, {hours(test.minutes)}</Unit>
            </Told>
          </Ends>
        ))}
      </PlainList>
    </Ruled>
  );
}
