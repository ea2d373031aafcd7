import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, Trouble, unknownTrouble, type Schemas } from "../../api/client";
import { meQuery } from "../../api/queries";
import { Button, Choice } from "../../kit/controls";
import { Big, CareNote, Line, Sheet, Soft, Stack, TroubleNote, Waiting } from "../../kit/page";

const TERMS = [
  { value: "0", label: "For ever" },
  { value: "24", label: "2 years" },
  { value: "60", label: "5 years" },
  { value: "120", label: "10 years" },
];

function size(bytes: number): string {
  if (bytes < 5e4) return "0 MB";
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
}

const captures = (n: number) => `${n} ${n === 1 ? "capture" : "captures"}`;

/** How long the samples of captures are kept, what they take, and what a term would let go of. */
export function Keeping() {
  const [term, setTerm] = useState<string | null>(null);
  const months = Number(term) || undefined;
  const kept = useQuery({
    queryKey: ["shop", "keeping", months ?? 0],
    queryFn: () => take(client.GET("/api/shop/keeping", { params: { query: { months } } })),
    placeholderData: keepPreviousData,
  });
  if (!kept.data) return <Waiting error={kept.error} what="what captures take" />;
  const own = String(kept.data.months ?? 0);
  return <Terms kept={kept.data} own={own} term={term ?? own} onTerm={setTerm} />;
}

function Terms({
  kept,
  own,
  term,
  onTerm,
}: {
  kept: Schemas["KeepingOut"];
  own: string;
  term: string;
  onTerm: (term: string | null) => void;
}) {
  const isLead = useQuery(meQuery).data?.role === "lead";
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  async function onSave() {
    try {
      await take(client.PUT("/api/shop/keeping", { body: { months: Number(term) || null } }));
      await queries.invalidateQueries({ queryKey: ["shop", "keeping"] });
      onTerm(null);
      setTrouble(null);
    } catch (error) {
      setTrouble(error instanceof Trouble ? error : unknownTrouble(error));
    }
  }
  const terms = TERMS.some((t) => t.value === own)
    ? TERMS
    : [...TERMS, { value: own, label: `${own} months` }];
  return (
    <Sheet>
      <h2>Captures and photographs</h2>
      <Line $gap="1.5rem" $align="start">
        <Stack $gap={0}>
          <Big $size={26}>{size(kept.capture_bytes)}</Big>
          <Soft>
            {captures(kept.captures)} with their samples
            {kept.let_go > 0 && `, ${kept.let_go} whose samples went`}
          </Soft>
        </Stack>
        <Stack $gap={0}>
          <Big $size={26}>{size(kept.photo_bytes)}</Big>
          <Soft>{kept.photos} photographs, which stay with their jobs</Soft>
        </Stack>
      </Line>
      {isLead ? (
        <>
          <Choice
            label="Samples are kept after a job was signed"
            options={terms}
            value={term}
            onChange={onTerm}
          />
          {term !== own && term !== "0" && (
            <CareNote
              title={
                kept.due > 0
                  ? `${captures(kept.due)} past that term: ${size(kept.due_bytes)}`
                  : "No capture is past that term yet"
              }
            >
              Samples past it go within the hour, and there is no way back but a backup. Readings,
              angles and a picture of the whole capture stay; reports and seals hold.
            </CareNote>
          )}
          <TroubleNote trouble={trouble} />
          <Line>
            <Button look="main" isDisabled={term === own} onPress={() => void onSave()}>
              Keep them so long
            </Button>
          </Line>
        </>
      ) : (
        <Soft>
          Samples are kept {own !== "0" ? `${own} months after the signature` : "for ever"}; a lead
          changes this.
        </Soft>
      )}
    </Sheet>
  );
}
