import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import { dueQuery } from "../../api/queries";
import { Line, Soft } from "../../kit/page";
import { PlainList, Said } from "../../kit/text";

const Item = styled.li<{ $isDue: boolean }>`
  display: grid;
  grid-template-columns: minmax(150px, auto) minmax(0, 1fr);
  gap: 2px 18px;
  align-items: baseline;
  padding: 8px 0 8px 14px;
  border-left: 6px solid ${({ $isDue }) => ($isDue ? "var(--pen)" : "var(--steel-light)")};
`;
const To = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-height: 48px;
`;

/** What is due on units after their jobs; nothing where nothing is. */
export function Due() {
  const dues = useQuery(dueQuery).data?.dues ?? [];
  if (!dues.length) return null;
  return (
    <section>
      <h2>To come back to</h2>
      <PlainList $gap="6px">
        {dues.map((due) => (
          <Item key={`${due.job_id} ${due.title}`} $isDue={due.is_due}>
            <Said $size={22}>{due.is_due ? `▲ due ${due.due}` : due.due}</Said>
            <div>
              <To to={`/jobs/${due.job_id}/handover`}>
                {due.tag} · {due.unit}: {due.title}
              </To>
              <Soft>{due.words}</Soft>
            </div>
          </Item>
        ))}
      </PlainList>
      <Line>
        <a href="/api/due.ics" download>
          As a calendar
        </a>
      </Line>
    </section>
  );
}
