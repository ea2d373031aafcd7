import { parseDate, type CalendarDate } from "@internationalized/date";
import {
  Button,
  Calendar,
  CalendarCell,
  CalendarGrid,
  DateInput,
  DatePicker,
  DateSegment,
  Dialog,
  Group,
  Heading,
  I18nProvider,
  Label,
  Popover,
} from "react-aria-components";
import styled from "styled-components";
import { useFieldName } from "./fields";

/** Whether a day is written as the server takes it. */
export const isDay = (typed: string) => /^\d{4}-\d{2}-\d{2}$/.test(typed);

/** Today where the tablet stands, as the server takes a day. */
export function today() {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
}

const Caption = styled(Label)`
  display: block;
  font-size: var(--note);
  color: var(--soft);
  margin-bottom: 4px;
`;
const Box = styled(Group)`
  display: flex;
  align-items: stretch;
  min-height: var(--target);
  background: var(--sheet);
  border: 1.5px solid var(--edge);
  &[data-focus-within] {
    border-color: var(--blue);
    box-shadow: 0 0 0 1.5px var(--blue);
  }
`;
const Typed = styled(DateInput)`
  flex: 1;
  display: flex;
  align-items: center;
  padding: 0 12px;
`;
const Piece = styled(DateSegment)`
  padding: 4px 2px;
  &[data-focused] {
    background: var(--blue);
    color: var(--sheet);
    outline: none;
  }
  &[data-placeholder] {
    color: var(--soft);
  }
`;
const Open = styled(Button)`
  min-width: var(--target);
  min-height: var(--target);
  border: none;
  border-left: 1.5px solid var(--edge);
  background: none;
  font-weight: 700;
  cursor: pointer;
`;
const Leaf = styled(Popover)`
  background: var(--sheet);
  border: 2px solid var(--enamel);
  padding: 10px;
`;
const Head = styled.header`
  display: flex;
  justify-content: space-between;
  align-items: center;
`;
const Month = styled(Heading)`
  margin: 0;
  font-size: var(--body);
`;
const Cell = styled(CalendarCell)`
  display: grid;
  place-items: center;
  width: var(--target);
  height: var(--target);
  cursor: pointer;
  &[data-outside-month] {
    display: none;
  }
  &[data-selected] {
    background: var(--enamel);
    color: var(--on-enamel);
    font-weight: 700;
  }
`;

interface Props {
  label: string;
  name: string;
  /** As the server takes it; empty while it is not whole. */
  value: string;
  onChange: (day: string) => void;
}

/** A day, typed piece by piece or chosen from its month. */
export function Day({ label, name, value, onChange }: Props) {
  useFieldName(name);
  const day: CalendarDate | null = isDay(value) ? parseDate(value) : null;
  return (
    <I18nProvider locale="en-GB">
      <DatePicker
        name={name}
        value={day}
        onChange={(chosen) => onChange(chosen ? chosen.toString() : "")}
        shouldForceLeadingZeros
      >
        <Caption>{label}</Caption>
        <Box>
          <Typed>{(segment) => <Piece segment={segment} />}</Typed>
          <Open aria-label="Month">Month</Open>
        </Box>
        <Leaf>
          <Dialog>
            <Calendar>
              <Head>
                <Open slot="previous">earlier</Open>
                <Month />
                <Open slot="next">later</Open>
              </Head>
              <CalendarGrid>{(date) => <Cell date={date} />}</CalendarGrid>
            </Calendar>
          </Dialog>
        </Leaf>
      </DatePicker>
    </I18nProvider>
  );
}
