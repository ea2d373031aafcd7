import { useState } from "react";
import styled from "styled-components";
import { client, sendFile, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button, Field } from "../../kit/controls";
import { FilePick } from "../../kit/files";
import { CareNote, Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { Told } from "../../kit/text";
import { clock } from "../../kit/words";

const Photo = styled.img`
  height: 108px;
  min-width: 80px;
  border: 1px solid var(--edge);
  display: block;
`;
const Link = styled.code`
  display: block;
  padding: 10px 12px;
  background: var(--ground);
  border: 1.5px solid var(--edge);
  overflow-wrap: anywhere;
  user-select: all;
`;

interface Props {
  id: number;
  step: Schemas["PlanStep"];
  photos: Schemas["StepPhoto"][];
  looks: Schemas["LookOut"][];
  isFixed: boolean;
}

/** Photographs of a step, and a colleague's second look at it by link. */
export function Photographs({ id, step, photos, looks, isFixed }: Props) {
  const { change, trouble, isBusy } = useChange(id);
  const [asks, setAsks] = useState(false);
  function onFiles(files: File[]) {
    const to = `/api/jobs/${id}/bench/photos?step=${encodeURIComponent(step.ref)}`;
    void change(async () => {
      let kept = null;
      for (const file of files) kept = await sendFile<Schemas["PhotoOut"]>(to, file);
      return kept;
    });
  }
  return (
    <Sheet>
      <h2>Photographs of this step</h2>
      {photos.length > 0 && (
        <Line>
          {photos.map((p, i) => (
            <a key={p.id} href={`/api/jobs/${id}/photos/${p.id}`} target="_blank" rel="noreferrer">
              <Photo
                src={`/api/jobs/${id}/photos/${p.id}`}
                alt={p.caption || `Photograph ${i + 1} of ${step.title}`}
              />
            </a>
          ))}
        </Line>
      )}
      {looks.map((look) => (
        <CareNote
          key={look.asked_at}
          title={
            look.opinion
              ? `${look.answered_by} by link: ${look.words}`
              : `Asked by ${look.asked_by}, no answer yet`
          }
        >
          <Told>
            {look.question}
            {look.answer && ` — ${look.answer}`}
          </Told>
          <Soft>
            {look.answered_at
              ? `${clock(look.answered_at)}; nobody here checked who it was`
              : `the link is good until ${clock(look.until)}`}
          </Soft>
        </CareNote>
      ))}
      <TroubleNote trouble={trouble} />
      {!isFixed && (
        <Line>
          <FilePick
            label={`Photographs of ${step.title}`}
            accept={["image/jpeg", "image/png", "image/webp"]}
            isMany
            isDisabled={isBusy}
            onFiles={onFiles}
          >
            {isBusy ? "Keeping …" : "Photograph it"}
          </FilePick>
          {!asks && <Button onPress={() => setAsks(true)}>Ask a colleague to look</Button>}
        </Line>
      )}
      {asks && <Asking id={id} step={step} onLeave={() => setAsks(false)} />}
    </Sheet>
  );
}

function Asking({
  id,
  step,
  onLeave,
}: {
  id: number;
  step: Schemas["PlanStep"];
  onLeave: () => void;
}) {
  const { change, trouble, isBusy } = useChange(id);
  const [question, setQuestion] = useState("");
  const [given, setGiven] = useState<Schemas["AskedColleague"] | null>(null);
  const [isCopied, setCopied] = useState(false);
  const path = { params: { path: { job_id: id } } };
  async function onAsk() {
    const body = { step: step.ref, question: question.trim() };
    setGiven(
      await change(() => take(client.POST("/api/jobs/{job_id}/bench/looks", { ...path, body }))),
    );
  }
  if (given) {
    const link = `${location.origin}${given.path}`;
    return (
      <CareNote title={`Send this link; it is good until ${clock(given.until)}, for one answer`}>
        <Link>{link}</Link>
        <Soft>It is shown this once. Whoever has it sees this step and its photographs.</Soft>
        <Line>
          <Button
            look="main"
            onPress={() => void navigator.clipboard.writeText(link).then(() => setCopied(true))}
          >
            {isCopied ? "✓ Copied" : "Copy the link"}
          </Button>
          <Button onPress={onLeave}>Sent</Button>
        </Line>
      </CareNote>
    );
  }
  return (
    <>
      <Field
        label="What should they look at?"
        value={question}
        onChange={setQuestion}
        hint="such as: does the painted link stand on the dot?"
      />
      <TroubleNote trouble={trouble} />
      <Line>
        <Button
          look="main"
          isDisabled={isBusy || question.trim().length < 3}
          onPress={() => void onAsk()}
        >
          Make the link
        </Button>
        <Button onPress={onLeave}>Leave it</Button>
      </Line>
    </>
  );
}
