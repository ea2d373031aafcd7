import { Label, Slider, SliderOutput, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";

const Ground = styled(Slider<number | number[]>)`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 12px;
  font-size: var(--note);
  color: var(--soft);
`;
const Track = styled(SliderTrack)`
  grid-column: 1 / -1;
  position: relative;
  height: 48px;
  margin: 0 24px;
  &::before {
    content: "";
    position: absolute;
    left: -24px;
    right: -24px;
    top: 22px;
    height: 3px;
    background: var(--edge);
  }
`;
const Thumb = styled(SliderThumb)`
  top: 50%;
  width: 48px;
  height: 48px;
  display: grid;
  place-items: center;
  cursor: grab;
  &::before {
    content: "";
    width: 16px;
    height: 34px;
    border: 2px solid var(--enamel);
    background: var(--sheet);
  }
  &[data-dragging]::before {
    background: var(--enamel);
  }
  &[data-focus-visible] {
    outline-offset: -6px;
  }
`;

interface SlideProps {
  label: string;
  value: number;
  /** As far as it goes to both sides. */
  most: number;
  onChange: (value: number) => void;
  words: string;
}

/** One figure set by sliding, nought in the middle. */
export function Slide({ label, value, most, onChange, words }: SlideProps) {
  return (
    <Ground
      value={value}
      minValue={-most}
      maxValue={most}
      step={0.1}
      onChange={(v) => onChange(Number(v))}
    >
      <Label>{label}</Label>
      <SliderOutput>{words}</SliderOutput>
      <Track>
        <Thumb />
      </Track>
    </Ground>
  );
}

interface RangeProps {
  label: string;
  value: readonly [number, number];
  whole: readonly [number, number];
  step: number;
  onChange: (value: [number, number]) => void;
}

/** A stretch of a whole, by its two ends. */
export function RangeSlider({ label, value, whole, step, onChange }: RangeProps) {
  return (
    <Ground
      value={[...value]}
      minValue={whole[0]}
      maxValue={whole[1]}
      step={step}
      onChange={(v) => {
        const [from = whole[0], to = whole[1]] = Array.isArray(v) ? v : [v];
        onChange([from, to]);
      }}
    >
      <Label>{label}</Label>
      <SliderOutput>
        {value[0].toFixed(2)} to {value[1].toFixed(2)} s of {whole[1].toFixed(1)} s
      </SliderOutput>
      <Track>
        <Thumb index={0} aria-label="from" />
        <Thumb index={1} aria-label="to" />
      </Track>
    </Ground>
  );
}
