import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { meQuery, roadsQuery, type Chosen } from "../../api/queries";
import { shopQuery } from "../../api/unitQueries";
import { Button } from "../../kit/controls";
import { Big, Sheet, Soft, Stack, Waiting } from "../../kit/page";
import { PlainList, Said, Tiles, Told } from "../../kit/text";
import { hours, percent } from "../../kit/words";

type Road = Schemas["Road"];
const FEW = 5;

interface Props {
  id: number;
  chosen: Chosen;
  /** Ways that a lead decided on already. */
  signed: string[];
  isFixed: boolean;
  onTake: (taken: Pick<Chosen, "scope" | "ways" | "kit">) => void;
}

/** The roads there are to what is to be renewed, side by side; one of them is taken. */
export function Roads({ id, chosen, signed, isFixed, onTake }: Props) {
  const { scope, kept, ways, kit } = chosen;
  const found = useQuery({ ...roadsQuery(id, scope, kept), enabled: scope.length > 0 });
  const isLead = useQuery(meQuery).data?.role === "lead";
  if (!found.data) return <Waiting error={found.error} what="the roads" />;
  const { roads, not_offered } = found.data;
  const isSigned = (road: Road) => road.ways.some((way) => signed.includes(way));
  const isTaken = (road: Road) =>
    told(road.ways) === told(ways) && road.kit === kit && !road.adds.length;
  return (
    <Sheet aria-label="Roads">
      <h2>{roads.length > 1 ? `${roads.length} roads lead there` : "One road leads there"}</h2>
      <Tiles $least={200} $fits>
        {roads.map((road) => (
          <Card key={road.name} $isTaken={isTaken(road)} aria-label={road.name}>
            <OneRoad road={road} />
            <Foot>
              {isTaken(road) ? (
                <Said $tone="fine">✓ This road</Said>
              ) : (
                <Button
                  isDisabled={isFixed || (road.needs_lead && !isLead && !isSigned(road))}
                  onPress={() => onTake({ scope: road.scope, ways: road.ways, kit: road.kit })}
                >
                  Take this road
                </Button>
              )}
              {road.needs_lead && (
                <Soft>
                  {isSigned(road)
                    ? "A lead decided on it."
                    : isLead
                      ? "You sign for it."
                      : "A lead signs for it."}
                </Soft>
              )}
            </Foot>
          </Card>
        ))}
      </Tiles>
      {not_offered.length > 0 && (
        <details>
          <Summary>Not offered: {not_offered.length}, and why</Summary>
          {not_offered.map((road) => (
            <Soft key={road.name}>
              {road.name}: {road.why}.
            </Soft>
          ))}
        </details>
      )}
    </Sheet>
  );
}

const told = (keys: readonly string[]) => [...keys].sort().join(" ");

const Card = styled.article<{ $isTaken: boolean }>`
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 12px;
  border: ${({ $isTaken }) => ($isTaken ? "3px solid var(--enamel)" : "1.5px solid var(--edge)")};
`;
const Summary = styled.summary`
  min-height: 48px;
  display: flex;
  align-items: center;
  cursor: pointer;
  font-size: var(--note);
  color: var(--soft);
`;
const Foot = styled.div`
  margin-top: auto;
`;

function OneRoad({ road }: { road: Road }) {
  const currency = useQuery(shopQuery).data?.currency ?? "";
  return (
    <Stack $gap={6}>
      <h3>{road.name}</h3>
      <div>
        <Big $size={30}>{hours(road.minutes)}</Big>
        <Soft>
          {hours(road.low_minutes)} to {hours(road.high_minutes)} of work, done after{" "}
          {hours(road.elapsed_minutes)}
        </Soft>
      </div>
      <Told>
        Parts <Said>{`${road.price.toFixed(0)} ${currency}`}</Said>
      </Told>
      <Told>
        {road.helper_stretches
          ? `Second person ${hours(road.helper_minutes)}, called ${times(road.helper_stretches)}`
          : "Nobody else needed"}
      </Told>
      {road.tools_missing.length > 0 && (
        <Told $tone="care">▲ Not in the shop: {few(road.tools_missing)}</Told>
      )}
      {road.adds.length > 0 && <Soft>Renewed besides: {few(road.adds)}</Soft>}
      <PlainList $gap="4px">
        {road.dangers.map((d) => (
          <Told as="li" key={d.what} $tone={d.is_grave ? "stop" : "care"}>
            {d.is_grave ? "■" : "▲"} {percent(d.chance)}: {d.what}
            {d.minutes > 0 && ` +${hours(d.minutes)}`}
          </Told>
        ))}
        {!road.dangers.length && <Told as="li">No danger of its own</Told>}
        {[...road.loses, ...road.weakness].map((words) => (
          <Told as="li" key={words} $tone="care">
            ▲ {words}
          </Told>
        ))}
      </PlainList>
      {road.differs && (
        <Soft>
          {road.differs.only_here.length > 0 && `Besides: ${few(road.differs.only_here)}. `}
          {road.differs.only_there.length > 0 && `Without: ${few(road.differs.only_there)}.`}
        </Soft>
      )}
    </Stack>
  );
}

function times(count: number): string {
  return count === 1 ? "once" : count === 2 ? "twice" : `${count} times`;
}

function few(names: readonly string[]): string {
  const rest = names.length - FEW;
  return names.slice(0, FEW).join(", ") + (rest > 0 ? ` and ${rest} more` : "");
}
