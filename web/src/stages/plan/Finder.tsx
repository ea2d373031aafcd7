import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { positionQuery } from "../../api/queries";
import { Button, Choice, Field } from "../../kit/controls";
import { Dialog } from "../../kit/Dialog";
import { figureOf, wrongFigure } from "../../kit/figures";
import { Big, Columns, Line, Soft, Stack, Waiting } from "../../kit/page";
import { PlainList, Said, Told } from "../../kit/text";

type Known = "unknown" | "rising" | "falling" | "capture" | "turn" | "cycle";
const KNOWN: readonly { value: Known; label: string }[] = [
  { value: "unknown", label: "unknown" },
  { value: "rising", label: "piston 1 rising" },
  { value: "falling", label: "piston 1 falling" },
  { value: "capture", label: "as the last capture ended" },
  { value: "turn", label: "an angle, stroke unknown" },
  { value: "cycle", label: "an angle and the stroke" },
];

/** From where the engine stands to the book's position: how far, which stroke, what misleads. */
export function Finder({ id }: { id: number }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button onPress={() => setOpen(true)}>Bring it to its position</Button>
      <Dialog title="To its position" isOpen={isOpen} onLeave={() => setOpen(false)}>
        <Finding id={id} />
      </Dialog>
    </>
  );
}

function Finding({ id }: { id: number }) {
  const [known, setKnown] = useState<Known>("unknown");
  const [angle, setAngle] = useState("");
  const [lean, setLean] = useState("");
  const degrees = figureOf(angle);
  const hasAngle = known === "turn" || known === "cycle";
  const now = !hasAngle
    ? known
    : degrees === null
      ? "unknown"
      : `${degrees}deg${known === "turn" ? "?" : ""}`;
  const wrongLean = wrongFigure(lean, -60, 60);
  const found = useQuery(positionQuery(id, now, wrongLean ? 0 : (figureOf(lean) ?? 0)));
  return (
    <Stack $gap={14}>
      <Choice label="It stands" value={known} onChange={setKnown} options={KNOWN} />
      <Columns $of="1fr 1fr">
        {hasAngle && (
          <Field
            label="Crank degrees from cylinder 1 firing"
            value={angle}
            onChange={setAngle}
            wrong={wrongFigure(angle, -720, 720)}
            inputMode="decimal"
          />
        )}
        <Field
          label="Level on the joint face, degrees"
          hint="how far the engine leans, clockwise positive; nought for upright"
          value={lean}
          onChange={setLean}
          wrong={wrongLean}
          inputMode="decimal"
        />
      </Columns>
      {!found.data ? (
        <Waiting error={found.error} what="the position" />
      ) : (
        <>
          <div>
            <Big>
              {found.data.forwards_deg.length
                ? `${found.data.forwards_deg.map((d) => `${d.toFixed(0)}°`).join(" or ")} forwards`
                : "Forwards, until both agree"}
            </Big>
            <Told>{found.data.words}</Told>
            <Told>{found.data.text}</Told>
          </div>
          <div>
            <h3>The right stroke</h3>
            <PlainList $gap="3px">
              {[...found.data.tell, ...found.data.lobes].map((words) => (
                <Told as="li" key={words}>
                  {words}
                </Told>
              ))}
            </PlainList>
          </div>
          <div>
            <h3>Ways to find it, and what misleads</h3>
            <PlainList $gap="6px">
              {found.data.tricks.map((trick) => (
                <li key={trick.name}>
                  <Said>{trick.name}.</Said> {trick.how} <Told $tone="care">▲ {trick.trap}</Told>
                </li>
              ))}
            </PlainList>
          </div>
          {found.data.ports.length > 0 && (
            <div>
              <h3>The one turn back</h3>
              <PlainList $gap="6px">
                {found.data.ports.map((port) => (
                  <li key={port.name}>
                    <Said>
                      {port.name}: at most {port.back_deg}° back.
                    </Said>{" "}
                    {port.words}
                  </li>
                ))}
              </PlainList>
            </div>
          )}
          <div>
            <h3>Where marks stand then{found.data.lean_deg ? ", leaning as it does" : ""}</h3>
            <PlainList $gap="3px">
              {found.data.marks.map((mark) => (
                <li key={mark.name}>
                  <Line $align="baseline">
                    <Said>{mark.clock}</Said>
                    <span>{mark.name}</span>
                    <Soft as="span">
                      {mark.is_timing ? `to ${mark.meets}` : `no timing mark: ${mark.meets}`}
                    </Soft>
                  </Line>
                </li>
              ))}
            </PlainList>
          </div>
        </>
      )}
    </Stack>
  );
}
