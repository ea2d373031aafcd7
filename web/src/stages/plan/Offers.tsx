import { useQuery } from "@tanstack/react-query";
import { offersQuery, type Chosen } from "../../api/queries";
import { shopQuery } from "../../api/unitQueries";
import { Button } from "../../kit/controls";
import { Sheet, Soft, Waiting } from "../../kit/page";
import { Ends, PlainList, Rest, Said } from "../../kit/text";
import { hours } from "../../kit/words";

interface Props {
  id: number;
  chosen: Chosen;
  onAdd: (component: string) => void;
}

/** While it is open: what could be renewed too, now against coming back. Nothing is chosen. */
export function Offers({ id, chosen, onAdd }: Props) {
  const found = useQuery(offersQuery(id, chosen));
  const currency = useQuery(shopQuery).data?.currency ?? "";
  if (!found.data) return <Waiting error={found.error} what="what else could be renewed" />;
  if (!found.data.offers.length) return null;
  const took = (minutes: number) => (minutes < 1 ? "no more work" : `${hours(minutes)} of work`);
  const cost = (minutes: number, price: number) =>
    `${took(minutes)}, ${price.toFixed(0)} ${currency}`;
  return (
    <Sheet>
      <h2>While it is open</h2>
      <PlainList $gap="6px">
        {found.data.offers.map((o) => (
          <Ends as="li" key={o.component} $align="center">
            <Rest $least={260}>
              <Said>{o.name}</Said>
              {o.is_off && <Soft as="span"> off anyway</Soft>}
              <Soft>
                Now {cost(o.minutes, o.price)}. Later {cost(o.later_minutes, o.later_price)}.
              </Soft>
            </Rest>
            <Button onPress={() => onAdd(o.component)} aria-label={`Renew it too: ${o.name}`}>
              Renew it too
            </Button>
          </Ends>
        ))}
      </PlainList>
    </Sheet>
  );
}
