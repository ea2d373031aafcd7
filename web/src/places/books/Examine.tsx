import { useState } from "react";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { Sheet, Soft, TroubleNote } from "../../kit/page";
import { Checks } from "./Checks";
import { TakeIn } from "./TakeIn";
import { FilePick } from "../../kit/files";

interface Found {
  file: string;
  text: string;
  result: Schemas["BookExamined"];
}

/** For whoever writes a book: what is wrong with the file, line by line. Nothing is kept. */
export function Examine() {
  const [found, setFound] = useState<Found | null>(null);
  const [trouble, setTrouble] = useState<Trouble | null>(null);

  async function onFile(file: File) {
    setTrouble(null);
    try {
      const text = await file.text();
      const result = await take(client.POST("/api/books/examine", { body: { text } }));
      setFound({ file: file.name, text, result });
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  return (
    <Sheet>
      <h2>Check a book you are writing, and take it in</h2>
      <Soft>
        Every loop, count, ratio, mark, clearance and component is worked out from the file.
        Checking keeps nothing.
      </Soft>
      <div>
        <FilePick
          label="Book file"
          accept={[".yaml", ".yml", ".txt"]}
          onFiles={([file]) => file && void onFile(file)}
        >
          Choose a book file
        </FilePick>
      </div>
      <TroubleNote trouble={trouble} />
      {found && (
        <div role="status">
          <h3>
            {found.file}:{" "}
            {found.result.faults === 0
              ? `no fault in ${found.result.checks.length} checks`
              : `${found.result.faults} ${found.result.faults === 1 ? "fault" : "faults"}`}
          </h3>
          {found.result.faults === 0 && <TakeIn text={found.text} onKept={() => setFound(null)} />}
          <Checks checks={found.result.checks} />
        </div>
      )}
    </Sheet>
  );
}
