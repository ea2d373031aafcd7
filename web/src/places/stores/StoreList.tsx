import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled, { css } from "styled-components";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { meQuery } from "../../api/queries";
import { storesQuery } from "../../api/unitQueries";
import { Button } from "../../kit/controls";
import { useDraft } from "../../kit/draft";
import { FilePick } from "../../kit/files";
import { CareNote, Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { Told } from "../../kit/text";
import { changesOf, withRow, type Row } from "./rows";

type List = Schemas["StoreList"];

const Wide = styled.div`
  overflow-x: auto;
`;
const Table = styled.table`
  border-collapse: collapse;
  width: 100%;
  th,
  td {
    text-align: left;
    padding: 3px 6px 3px 0;
    border-bottom: 1px solid var(--line);
    vertical-align: middle;
  }
  th {
    font-size: var(--note);
    font-weight: 400;
    color: var(--soft);
    vertical-align: bottom;
  }
`;
const cell = css<{ $isWrong: boolean; $least: number }>`
  width: 100%;
  min-width: ${({ $least }) => $least}px;
  min-height: 48px;
  padding: 6px 8px;
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1.5px solid ${({ $isWrong }) => ($isWrong ? "var(--red)" : "var(--edge)")};
  &:focus-visible {
    outline: none;
    border-color: var(--blue);
    box-shadow: 0 0 0 1.5px var(--blue);
  }
`;
const Cell = styled.input<{ $isWrong: boolean; $least: number }>`
  ${cell}
`;
const Pick = styled.select<{ $isWrong: boolean; $least: number }>`
  ${cell}
`;

/** One list: typed where it stands, kept as a whole, taken out and in as CSV. */
export function StoreList({ list }: { list: List }) {
  const isLead = useQuery(meQuery).data?.role === "lead";
  const queries = useQueryClient();
  const { fingerprint } = list;
  const draft = useDraft<{ rows: Row[]; fingerprint: string }>(`store ${list.kind}`, list);
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const { rows } = draft.value;
  const begun = draft.value.fingerprint;
  const put = (next: Row[]) => draft.set({ rows: next, fingerprint: begun });
  const { added, gone } = changesOf(list.rows, rows);
  const isSame = !added && !gone;
  const wrong = trouble?.detail.field.split(".") ?? [];

  async function attempt(act: () => Promise<void>) {
    setTrouble(null);
    try {
      await act();
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
      else throw error;
    }
  }
  const onRead = (files: File[]) =>
    attempt(async () => {
      const text = await (files[0]?.text() ?? "");
      const found = await take(
        client.POST("/api/stores/{kind}/read", { ...at(list), body: { text } }),
      );
      put(found.rows);
    });
  const onKeep = () =>
    attempt(async () => {
      try {
        const body = { fingerprint: begun, rows };
        await take(client.PUT("/api/stores/{kind}", { ...at(list), body }));
        draft.forget(draft.value);
      } finally {
        await queries.invalidateQueries({ queryKey: storesQuery.queryKey });
        void queries.invalidateQueries({ queryKey: ["ready"] });
      }
    });
  return (
    <Sheet aria-label={list.name}>
      {!rows.length && (
        <Soft>
          Nobody keeps this list yet: what it would say is shown as not known.
          {isLead ? " Add a line, or take a CSV in." : " A lead keeps it."}
        </Soft>
      )}
      {rows.length > 0 && (
        <Wide>
          <Table>
            <thead>
              <tr>
                {list.columns.map((c) => (
                  <th key={c.key} scope="col">
                    {c.words}
                  </th>
                ))}
                {isLead && <th scope="col">Line</th>}
              </tr>
            </thead>
            <tbody>
              {rows.map((row, i) => (
                <tr key={i}>
                  {list.columns.map((column, j) => (
                    <td key={column.key}>
                      <OneCell
                        column={column}
                        value={row[j] ?? ""}
                        name={`${column.words}, line ${i + 1}`}
                        isWrong={wrong[0] === String(i) && wrong[1] === column.key}
                        isFixed={!isLead}
                        onChange={(value) => put(withRow(rows, i, j, value))}
                      />
                    </td>
                  ))}
                  {isLead && (
                    <td>
                      <Button
                        aria-label={`Out: line ${i + 1}`}
                        onPress={() => put(rows.filter((_, k) => k !== i))}
                      >
                        Out
                      </Button>
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </Table>
        </Wide>
      )}
      {draft.isDirty && begun !== fingerprint && (
        <CareNote title="Somebody changed this list since you began">
          What stands above is yours: {added} lines are not in the list as it is now, {gone} of that
          are not here.
          <Line>
            <Button onPress={() => draft.set({ rows, fingerprint })}>Mine shall stand</Button>
            <Button onPress={() => draft.forget(draft.value)}>Take theirs</Button>
          </Line>
        </CareNote>
      )}
      <TroubleNote trouble={trouble} />
      {isLead && (
        <Line $align="center">
          <Button onPress={() => put([...rows, fresh(list)])}>Add a line</Button>
          <Button look="next" isDisabled={isSame} onPress={() => void onKeep()}>
            Keep this list
          </Button>
          {!isSame && (
            <>
              <Told>
                Not kept yet: {added} lines new or changed, {gone} no more as they were.
              </Told>
              <Button onPress={() => draft.forget(draft.value)}>As it was</Button>
            </>
          )}
          <FilePick
            label={`${list.name} as CSV`}
            accept={[".csv", "text/csv"]}
            onFiles={(f) => void onRead(f)}
          >
            Take a CSV in
          </FilePick>
        </Line>
      )}
      <a href={`/api/stores/${list.kind}.csv`} download>
        Take it out as CSV
      </a>
    </Sheet>
  );
}

const at = (list: List) => ({ params: { path: { kind: list.kind } } });

/** An empty line; what is chosen from few stands as the first of them. */
const fresh = (list: List): Row => list.columns.map((c) => c.choices[0]?.code ?? "");

interface CellProps {
  column: Schemas["ColumnOut"];
  value: string;
  name: string;
  isWrong: boolean;
  isFixed: boolean;
  onChange: (value: string) => void;
}

function OneCell({ column, value, name, isWrong, isFixed, onChange }: CellProps) {
  if (isFixed) return <>{column.choices.find((c) => c.code === value)?.words ?? (value || "–")}</>;
  const plain = {
    value,
    "aria-label": name,
    "aria-invalid": isWrong,
    $isWrong: isWrong,
    $least: column.choices.length ? 128 : column.is_day ? 118 : column.is_figure ? 62 : 150,
    onChange: (e: { target: { value: string } }) => onChange(e.target.value),
  };
  if (column.choices.length)
    return (
      <Pick {...plain}>
        {column.choices.map((c) => (
          <option key={c.code} value={c.code}>
            {c.words}
          </option>
        ))}
      </Pick>
    );
  return (
    <Cell
      {...plain}
      placeholder={column.is_day ? "2026-05-31" : undefined}
      inputMode={column.is_figure ? "decimal" : "text"}
      required={column.is_needed}
    />
  );
}
