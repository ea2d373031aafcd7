import { Button as Key, Dialog, DialogTrigger, Popover } from "react-aria-components";
import styled from "styled-components";
import { Press } from "./FigureKey";

const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0", "−"] as const;

const Open = styled(Key)`
  align-self: start;
  min-width: var(--bench-target);
  min-height: var(--bench-target);
  margin-top: 25px;
  border: 1.5px solid var(--edge);
  background: var(--sheet);
  font-weight: 700;
  line-height: 1.1;
  cursor: pointer;
`;
const Leaf = styled(Popover)`
  background: var(--sheet);
  border: 2px solid var(--enamel);
  padding: 8px;
`;
const Pad = styled.div`
  display: grid;
  grid-template-columns: repeat(3, 76px);
  gap: 6px;
`;

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
}

/**
 * Figures pressed with a glove on. Beside a field, never instead of it: whoever has keys types, and
 * does not meet it on the way.
 */
export function Keypad({ label, value, onChange }: Props) {
  return (
    <DialogTrigger>
      <Open aria-label={`1 2 3: press figures for ${label}`} excludeFromTabOrder>
        1 2 3
      </Open>
      <Leaf placement="right top">
        <Dialog aria-label={`Figures for: ${label}`}>
          {({ close }) => (
            <Pad>
              {KEYS.map((key) => (
                <Press key={key} onPress={() => onChange(value + key)}>
                  {key}
                </Press>
              ))}
              <Press data-back onPress={() => onChange(value.slice(0, -1))}>
                back
              </Press>
              <Press data-wide onPress={close}>
                That is it
              </Press>
            </Pad>
          )}
        </Dialog>
      </Leaf>
    </DialogTrigger>
  );
}
