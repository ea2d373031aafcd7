import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Soft } from "../../kit/page";
import { Tiles } from "../../kit/text";

const Tile = styled.a`
  display: grid;
  gap: 2px;
  min-height: 56px;
  padding: 8px 12px;
  border: 1.5px solid var(--edge);
  color: inherit;
  text-decoration: none;
`;
const Words = styled.strong`
  font-size: var(--body);
`;

/** What to do and what to test next, in a line each that leads to the whole of it. */
export function InShort({ advice }: { advice: Schemas["Advice"] }) {
  const advised = advice.decision.find((o) => o.is_advised);
  const [test] = advice.next_tests;
  return (
    <Tiles $least={300} $gap="10px">
      <Tile href="#next-test">
        <Soft as="span">Next test</Soft>
        <Words>
          {advice.is_time_to_decide || !test ? "None: it is time to decide" : test.name}
        </Words>
      </Tile>
      {advised && advice.is_measured && (
        <Tile href="#what-to-do">
          <Soft as="span">
            {advice.is_time_to_decide ? "Advised" : "Advised, were it decided now"}
          </Soft>
          <Words>{advised.name}</Words>
        </Tile>
      )}
    </Tiles>
  );
}
