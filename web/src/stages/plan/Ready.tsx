import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { readyQuery, type Chosen } from "../../api/queries";
import { shopQuery } from "../../api/unitQueries";
import { Big, Columns, Sheet, Soft, Waiting } from "../../kit/page";
import { Ends, PlainList, Ruled, Said, Told } from "../../kit/text";

interface Props {
  id: number;
  chosen: Chosen;
  notice: string;
}

/** What must be there before the engine is opened. */
export function Ready({ id, chosen, notice }: Props) {
  const found = useQuery(readyQuery(id, chosen));
  const currency = useQuery(shopQuery).data?.currency ?? "";
  if (!found.data) return <Waiting error={found.error} what="what must be ready" />;
  const { parts, price, kits, torques, at_hand } = found.data;
  const money = (figure: number) => `${figure.toFixed(0)} ${currency}`;
  const bought = new Map(parts.map((p) => [p.name, p]));
  const priced = (name: string) => {
    const part = bought.get(name);
    return part ? (part.price * part.count).toFixed(2) : "";
  };
  return (
    <Columns $of="1fr 1fr">
      <Sheet>
        <h2>Have ready</h2>
        <div>
          <Soft>The engine can be opened on</Soft>
          <Big $size={26}>{at_hand.starts_on ?? "not known"}</Big>
          {at_hand.unknown.length > 0 && (
            <Soft>
              Nobody keeps: {at_hand.unknown.join(", ")}. <Link to="/stores">Stores</Link>
            </Soft>
          )}
        </div>
        <PlainList $gap="6px">
          {at_hand.parts.map((p) => (
            <Ends as="li" key={p.name} $keeps>
              <div>
                {p.count > 1 ? `${p.count} × ` : ""}
                {p.name} <Soft as="span">{bought.get(p.name)?.why}</Soft>
                <Told $size={15} $tone={toneOf(p)}>
                  {p.state}
                </Told>
                {p.first && (
                  <Told $size={15} $tone="care">
                    ▲ {p.first}
                  </Told>
                )}
              </div>
              <Said $isWhole>{priced(p.name)}</Said>
            </Ends>
          ))}
        </PlainList>
        <Ruled>
          <Ends>
            <span>Parts altogether</span>
            <Said>{money(price)}</Said>
          </Ends>
        </Ruled>
        {kits.map((kit) => (
          <KitLine key={kit.key} kit={kit} money={money} />
        ))}
      </Sheet>
      <Sheet>
        <h2>Torque wrenches</h2>
        <PlainList $gap="6px">
          {torques.map((t, i) => (
            <Torque key={t.fastener} line={t} wrench={at_hand.wrenches[i]} />
          ))}
        </PlainList>
        <h2>Tools</h2>
        <PlainList $gap="4px">
          {at_hand.tools.map((tool) => (
            <li key={tool.name}>
              {tool.name}
              <Told
                $size={15}
                $tone={tool.is_here === null ? "soft" : tool.is_here ? "fine" : "care"}
              >
                {tool.words}
              </Told>
            </li>
          ))}
        </PlainList>
        <Soft>{notice}</Soft>
      </Sheet>
    </Columns>
  );
}

const toneOf = (part: Schemas["PartAt"]) =>
  part.here === null ? "soft" : part.lacking ? "stop" : part.ordered ? "care" : "fine";

interface TorqueProps {
  line: Schemas["TorqueLine"];
  wrench: Schemas["WrenchAt"] | undefined;
}

/** One torque with the bolts it is for, which goes where, and the wrench that does. */
function Torque({ line, wrench }: TorqueProps) {
  const { least_nm, most_nm, angle_deg } = line;
  const none = wrench?.does?.length === 0;
  return (
    <li>
      <Ends $keeps>
        <span>
          {line.count} × {line.fastener} <Soft as="span">{line.size}</Soft>
        </span>
        <Said $isWhole>
          {least_nm === most_nm ? "" : `${least_nm.toFixed(0)}, then `}
          {most_nm.toFixed(0)} Nm{angle_deg ? ` + ${angle_deg.toFixed(0)}°` : ""}
        </Said>
      </Ends>
      {line.holes && (
        <Told $size={15} $tone="care">
          ▲ Two lengths: {line.holes}
        </Told>
      )}
      <Told $size={15} $tone={none ? "stop" : "soft"}>
        {[wrench?.does?.join(", "), wrench?.words].filter(Boolean).join(". ")}
      </Told>
    </li>
  );
}

interface KitProps {
  kit: Schemas["KitLine"];
  money: (figure: number) => string;
}

function KitLine({ kit, money }: KitProps) {
  const lacking = [...kit.missing, ...kit.short];
  return (
    <Ruled>
      <Ends>
        <span>{kit.name}</span>
        <Said>{money(kit.total)}</Said>
      </Ends>
      <Soft>
        {money(kit.price)} for what costs {money(kit.singly)} one by one
        {lacking.length ? `; still to be bought: ${lacking.join(", ")}` : "; nothing is missing"}.
        {kit.superfluous.length > 0 && ` Not needed of it: ${kit.superfluous.length} kinds.`}
      </Soft>
      {kit.weakness.map((words) => (
        <Told key={words} $tone="care">
          ▲ {words}
        </Told>
      ))}
    </Ruled>
  );
}
