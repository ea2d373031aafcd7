import { useState } from "react";
import { client, take, type Schemas, type Trouble } from "../api/client";
import { Button } from "../kit/controls";
import { ServerForm } from "../kit/form";
import type { KnownHere } from "../kit/knownHere";
import { Line, Sheet, Soft } from "../kit/page";
import { PinPad } from "../kit/PinPad";
import { Tiles } from "../kit/text";

interface Props {
  known: KnownHere[];
  trouble: Trouble | null;
  enter: (send: Promise<Schemas["Me"]>) => Promise<void>;
  onPassword: () => void;
}

/** The way in on a shared tablet: one's name, then one's PIN. */
export function ByPin({ known, trouble, enter, onPassword }: Props) {
  const [who, setWho] = useState<KnownHere | undefined>(known.length === 1 ? known[0] : undefined);
  const [pin, setPin] = useState("");
  if (!who)
    return (
      <Sheet>
        <h1>Who is it?</h1>
        <Tiles $least={180}>
          {known.map((one) => (
            <Button key={one.login} look="next" onPress={() => setWho(one)}>
              {one.name}
            </Button>
          ))}
        </Tiles>
        <Line>
          <Button onPress={onPassword}>Somebody else, or by password</Button>
        </Line>
      </Sheet>
    );
  return (
    <Sheet>
      <h1>{who.name}</h1>
      <ServerForm
        trouble={trouble}
        onSubmit={() => {
          const body = { login: who.login, pin };
          setPin("");
          if (pin) void enter(take(client.POST("/api/session/pin", { body })));
        }}
      >
        <PinPad name="pin" value={pin} onChange={setPin} isFirst />
        <Line>
          <Button look="main" type="submit" isDisabled={!pin}>
            Sign in
          </Button>
          {known.length > 1 && <Button onPress={() => setWho(undefined)}>Not me</Button>}
          <Button onPress={onPassword}>By password</Button>
        </Line>
        <Soft>A PIN is good on devices of this place where you signed in within 30 days.</Soft>
      </ServerForm>
    </Sheet>
  );
}
