import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { FilePick } from "../../kit/files";
import { Line, Sheet, Soft, TroubleNote } from "../../kit/page";

const Lines = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 46vh;
  overflow-y: auto;
`;
const One = styled.li<{ $effect: Schemas["Effect"] }>`
  border-top: 1px solid var(--line);
  border-left: 4px solid
    ${({ $effect }) => ($effect === "refused" ? "var(--red)" : "var(--enamel)")};
  padding: 6px 10px;
`;
const EFFECTS: Record<Schemas["Effect"], string> = {
  new: "new",
  changed: "changed",
  same: "as it is",
  refused: "refused",
};

/** A list of units brought in: first what it would change, line by line, then taken in or left. */
export function UnitList({ onLeave }: { onLeave: () => void }) {
  const queries = useQueryClient();
  const [text, setText] = useState("");
  const [seen, setSeen] = useState<Schemas["PreviewOut"] | null>(null);
  const [trouble, setTrouble] = useState<Trouble | null>(null);

  async function go(work: () => Promise<void>) {
    try {
      setTrouble(null);
      await work();
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  const onFile = (file: File) =>
    go(async () => {
      const read = await file.text();
      setText(read);
      setSeen(null);
      setSeen(await take(client.POST("/api/units/list/preview", { body: { text: read } })));
    });
  const onTake = () =>
    go(async () => {
      const body = { text, fingerprint: seen?.fingerprint ?? "" };
      await take(client.POST("/api/units/list", { body }));
      await queries.invalidateQueries({ queryKey: ["units"] });
      void queries.invalidateQueries({ queryKey: ["yard"] });
      onLeave();
    });
  const told = seen?.lines.filter((line) => line.effect !== "same") ?? [];
  return (
    <Sheet>
      <h2>Bring in a list</h2>
      <Soft>
        A CSV file as “Take the list out” makes it. You see what it would change before anything is
        kept.
      </Soft>
      <TroubleNote trouble={trouble} />
      {seen && (
        <div role="status">
          <strong>
            {told.length
              ? `${told.length} of ${seen.lines.length} lines change something`
              : "The list changes nothing"}
          </strong>
          <Lines>
            {told.map((line) => (
              <One key={line.number} $effect={line.effect}>
                line {line.number}, {line.tag || "no tag"}: <strong>{EFFECTS[line.effect]}</strong>
                <Soft>{line.words.join(" · ")}</Soft>
              </One>
            ))}
          </Lines>
          {!seen.is_good && <Soft>Mend the refused lines in the file and choose it again.</Soft>}
        </div>
      )}
      <Line>
        {seen?.is_good && told.length > 0 && (
          <Button look="main" onPress={() => void onTake()}>
            Take the list in
          </Button>
        )}
        <FilePick
          label="List of units"
          accept={[".csv", ".txt"]}
          onFiles={([file]) => file && void onFile(file)}
        >
          Choose a file
        </FilePick>
        <Button onPress={onLeave}>Leave it</Button>
      </Line>
    </Sheet>
  );
}
