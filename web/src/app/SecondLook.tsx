import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import styled from "styled-components";
import { askAgain, client, take, Trouble, unknownTrouble, type Schemas } from "../api/client";
import { Button, Field } from "../kit/controls";
import { ServerForm } from "../kit/form";
import { CareNote, Line, Sheet, Soft, Waiting } from "../kit/page";
import { Told } from "../kit/text";
import { clock } from "../kit/words";
import { Ground, Main } from "./place";

const Narrow = styled.div`
  max-width: 820px;
  margin: 0 auto;
  display: grid;
  gap: 14px;
`;
const Photo = styled.img`
  width: 100%;
  max-height: 78vh;
  object-fit: contain;
  background: var(--sheet);
  border: 1px solid var(--line);
`;
const Figure = styled.figure`
  margin: 0;
`;
const OPINIONS = [
  { value: "right", label: "It looks right" },
  { value: "wrong", label: "It does not" },
  { value: "unsure", label: "I cannot say from here" },
] as const;

/** What a colleague sees who was sent the link of a step: its photographs, one question. */
export function SecondLook() {
  const token = useParams().token ?? "";
  const look = useQuery({
    queryKey: ["look", token],
    queryFn: async () => {
      await askAgain();
      return take(client.GET("/api/look/{token}", { params: { path: { token } } }));
    },
    retry: false,
    staleTime: Infinity,
  });
  const [kept, setKept] = useState("");
  return (
    <Ground>
      <Main>
        <Narrow>
          {kept ? (
            <Sheet>
              <h1>Kept. Thank you.</h1>
              <Told $size={20}>{kept}</Told>
              <Soft>It stands in the notebook of the job. This page may be closed.</Soft>
            </Sheet>
          ) : look.data ? (
            <Question token={token} look={look.data} onKept={setKept} />
          ) : (
            <Waiting error={look.error} what="the question" />
          )}
        </Narrow>
      </Main>
    </Ground>
  );
}

function Question({
  token,
  look,
  onKept,
}: {
  token: string;
  look: Schemas["SecondLookOut"];
  onKept: (words: string) => void;
}) {
  const [name, setName] = useState("");
  const [answer, setAnswer] = useState("");
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [isBusy, setBusy] = useState(false);
  async function onSay(opinion: Schemas["Opinion"]) {
    setBusy(true);
    setTrouble(null);
    try {
      const body = { name: name.trim(), opinion, answer: answer.trim() };
      const done = await take(
        client.POST("/api/look/{token}", { params: { path: { token } }, body }),
      );
      onKept(done.words);
    } catch (error) {
      setTrouble(error instanceof Trouble ? error : unknownTrouble(error));
    } finally {
      setBusy(false);
    }
  }
  const photos = Object.entries(look.photos);
  return (
    <>
      <Sheet>
        <Soft>
          {look.unit} · {look.engine} · job {look.job}
        </Soft>
        <h1>{look.title}</h1>
        <CareNote title={`${look.asked_by} asks`}>
          <Told $size={22}>{look.question}</Told>
        </CareNote>
      </Sheet>
      {photos.length === 0 && <Soft>No photograph of it was taken yet.</Soft>}
      {photos.map(([key, caption], i) => (
        <Figure key={key}>
          <Photo
            src={`/api/look/${token}/photos/${key}`}
            alt={caption || `Photograph ${i + 1} of ${look.title}`}
          />
          {caption && <figcaption>{caption}</figcaption>}
        </Figure>
      ))}
      <Sheet>
        <Told $size={18}>{look.text}</Told>
        <Told $size={18}>
          <strong>Right when: </strong>
          {look.looks_right}
        </Told>
      </Sheet>
      <Sheet>
        <h2>Your answer, once</h2>
        <ServerForm trouble={trouble} onSubmit={() => undefined}>
          <Field name="name" label="Your name" value={name} onChange={setName} />
          <Field label="What you see" value={answer} onChange={setAnswer} isLong />
          <Line>
            {OPINIONS.map((one) => (
              <Button
                key={one.value}
                look={one.value === "right" ? "main" : "plain"}
                isDisabled={isBusy || name.trim().length < 2}
                onPress={() => void onSay(one.value)}
              >
                {one.label}
              </Button>
            ))}
          </Line>
        </ServerForm>
        <Soft>
          It is kept by the name you give, as come by link. Good until {clock(look.until)}. The
          maker&apos;s service information and a licensed technician&apos;s judgement come first.
        </Soft>
      </Sheet>
    </>
  );
}
