import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Trouble } from "../../api/client";
import { meQuery } from "../../api/queries";
import { Button, Field } from "../../kit/controls";
import { ServerForm } from "../../kit/form";
import { Line, Soft } from "../../kit/page";
import { PinPad } from "../../kit/PinPad";

interface Props {
  press: string;
  trouble: Trouble | null;
  isBusy: boolean;
  onSign: (secret: string, isPin: boolean) => void;
}

/** Who signs shows who they are: by PIN where they have one, else by password. */
export function Signature({ press, trouble, isBusy, onSign }: Props) {
  const me = useQuery(meQuery).data;
  const [byPassword, setByPassword] = useState(false);
  const [secret, setSecret] = useState("");
  const isPin = Boolean(me?.has_pin) && !byPassword;
  return (
    <ServerForm trouble={trouble} onSubmit={() => secret && onSign(secret, isPin)}>
      <Soft>You sign as {me?.name}.</Soft>
      {isPin ? (
        <PinPad value={secret} onChange={setSecret} />
      ) : (
        <Field
          name="secret"
          label="Your password"
          value={secret}
          onChange={setSecret}
          type="password"
          autoComplete="current-password"
        />
      )}
      <Line>
        <Button look="main" type="submit" isDisabled={isBusy || !secret}>
          {press}
        </Button>
        {me?.has_pin && (
          <Button
            onPress={() => {
              setByPassword(!byPassword);
              setSecret("");
            }}
          >
            {byPassword ? "By PIN" : "By password"}
          </Button>
        )}
      </Line>
    </ServerForm>
  );
}
