import styled from "styled-components";

const Wrap = styled.label`
  display: grid;
  gap: 4px;
  font-size: var(--note);
  color: var(--soft);
  min-width: 0;
`;
const Box = styled.select`
  min-height: 48px;
  padding: 8px 12px;
  background: var(--sheet);
  color: var(--ink);
  border: 1.5px solid var(--edge);
  border-radius: 2px;
  font: inherit;
  font-size: var(--body);
  width: 100%;
  min-width: 0;
  max-width: 100%;
  text-overflow: ellipsis;
`;

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  options: readonly { value: string; label: string }[];
}

/** One of many: a plain list box, which gloves and screen readers know. */
export function Select({ label, value, onChange, options }: Props) {
  return (
    <Wrap>
      {label}
      <Box value={value} onChange={(e) => onChange(e.target.value)}>
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </Box>
    </Wrap>
  );
}
