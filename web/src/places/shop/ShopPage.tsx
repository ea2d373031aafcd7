import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { meQuery } from "../../api/queries";
import { shopQuery } from "../../api/unitQueries";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Button, Field } from "../../kit/controls";
import {
  CareNote,
  Columns,
  Line,
  Sheet,
  Soft,
  Stack,
  StageHead,
  TroubleNote,
  Waiting,
} from "../../kit/page";
import { clock } from "../../kit/words";
import { Keeping } from "./Keeping";

/** The shop's own name and ways, and whether it has a backup. */
export function ShopPage() {
  const shop = useQuery(shopQuery);
  return (
    <Ground>
      <TopBar>
        <Tab to="/" end>
          Yard
        </Tab>
        <Tab to="/shop">Shop</Tab>
      </TopBar>
      <Main>
        <StageHead title="Shop" />
        {!shop.data ? (
          <Waiting error={shop.error} what="the shop" />
        ) : (
          <Columns $of="minmax(0, 3fr) minmax(0, 2fr)">
            <Ways key={JSON.stringify(shop.data)} shop={shop.data} />
            <Stack>
              <Backup shop={shop.data} />
              <Keeping />
            </Stack>
          </Columns>
        )}
      </Main>
    </Ground>
  );
}

function Ways({ shop }: { shop: Schemas["ShopOut"] }) {
  const isLead = useQuery(meQuery).data?.role === "lead";
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const { name, job_prefix, currency, time_zone } = shop;
  const before = { name, job_prefix, currency, time_zone };
  const [told, setTold] = useState(before);
  const put = (part: Partial<typeof told>) => setTold({ ...told, ...part });
  const isSame = JSON.stringify(told) === JSON.stringify(before);
  async function onSave() {
    try {
      const after = await take(client.PUT("/api/shop", { body: told }));
      queries.setQueryData(shopQuery.queryKey, after);
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  return (
    <Sheet>
      <h2>Name and ways</h2>
      <Field
        label="Name, as reports and seals give it"
        value={told.name}
        onChange={(value) => put({ name: value })}
        isDisabled={!isLead}
      />
      <Field
        label="Letters job numbers begin with"
        value={told.job_prefix}
        onChange={(value) => put({ job_prefix: value.toUpperCase() })}
        isDisabled={!isLead}
        hint="jobs that have a number keep it"
      />
      <Field
        label="Currency, as prices are written"
        value={told.currency}
        onChange={(value) => put({ currency: value })}
        isDisabled={!isLead}
      />
      <Field
        label="Time zone"
        value={told.time_zone}
        onChange={(value) => put({ time_zone: value })}
        isDisabled={!isLead}
        hint="a name such as Europe/Oslo, or UTC"
      />
      <TroubleNote trouble={trouble} />
      {isLead ? (
        <Line>
          <Button look="main" isDisabled={isSame} onPress={() => void onSave()}>
            Keep it so
          </Button>
        </Line>
      ) : (
        <Soft>A lead changes this.</Soft>
      )}
    </Sheet>
  );
}

function Backup({ shop }: { shop: Schemas["ShopOut"] }) {
  return (
    <Sheet>
      <h2>Backup</h2>
      {shop.last_backup ? (
        <p>
          The last good one: <strong>{clock(shop.last_backup)}</strong>
          <Soft>{shop.last_backup_file}</Soft>
        </p>
      ) : (
        <CareNote title="No backup is known of">
          On the server, <code>script/backup FILE</code> makes one while people work.
        </CareNote>
      )}
      {shop.free_gb !== null && <Soft>{shop.free_gb} GB are free on the server’s disk.</Soft>}
    </Sheet>
  );
}
