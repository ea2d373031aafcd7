import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { meQuery } from "../../api/queries";
import { Button, Field } from "../../kit/controls";
import { ServerForm } from "../../kit/form";
import { remember } from "../../kit/knownHere";
import { Line, Sheet, Soft } from "../../kit/page";
import { Told } from "../../kit/text";

/** One's own PIN: the short way in on a shared tablet, and a signature with one hand. */
export function OwnPin({ me }: { me: Schemas["Me"] }) {
  const queries = useQueryClient();
  const [password, setPassword] = useState("");
  const [pin, setPin] = useState("");
  const [again, setAgain] = useState("");
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [said, setSaid] = useState("");

  async function onSend(wanted: string) {
    setTrouble(null);
    setSaid("");
    try {
      const after = await take(client.PUT("/api/session/pin", { body: { password, pin: wanted } }));
      queries.setQueryData(meQuery.queryKey, after);
      remember(after.login ?? "", after.name ?? "", after.has_pin);
      setPassword("");
      setPin("");
      setAgain("");
      setSaid(after.has_pin ? "Your PIN is set." : "You have no PIN any longer.");
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  const isTwice = pin === again;
  return (
    <Sheet>
      <h2>{me.has_pin ? "Your PIN" : "A PIN, for shared tablets"}</h2>
      <Soft>
        5 to 8 figures. With it you sign in and sign where you signed in within 30 days; anywhere
        else it opens nothing.
      </Soft>
      {said && <Told $tone="fine">✓ {said}</Told>}
      <ServerForm trouble={trouble} onSubmit={() => pin && isTwice && void onSend(pin)}>
        <Field
          name="password"
          label="Your password, once more"
          value={password}
          onChange={setPassword}
          type="password"
          autoComplete="current-password"
        />
        <Field
          name="pin"
          label="PIN"
          value={pin}
          onChange={setPin}
          type="password"
          inputMode="numeric"
        />
        <Field
          label="PIN once more"
          value={again}
          onChange={setAgain}
          type="password"
          inputMode="numeric"
          hint={again && !isTwice ? "The two are not alike yet." : undefined}
        />
        <Line>
          <Button look="main" type="submit" isDisabled={!password || !pin || !isTwice}>
            {me.has_pin ? "Take the new PIN" : "Set the PIN"}
          </Button>
          {me.has_pin && (
            <Button isDisabled={!password} onPress={() => void onSend("")}>
              Have no PIN
            </Button>
          )}
        </Line>
      </ServerForm>
    </Sheet>
  );
}
