import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Soft } from "../../kit/page";
import { Tiles } from "../../kit/text";

const Pick = styled(ToggleButton)`
  display: grid;
  gap: 4px;
  padding: 4px;
  min-height: 48px;
  border: 2px solid var(--line);
  background: var(--sheet);
  cursor: pointer;
  text-align: left;
  font-size: var(--least);
  color: var(--soft);
  & > img {
    width: 100%;
    aspect-ratio: 4 / 3;
    object-fit: cover;
  }
  &[data-selected] {
    border-color: var(--enamel);
    color: var(--ink);
  }
  &:not([data-selected]) > img {
    opacity: 0.45;
  }
  &[data-focus-visible] {
    outline: 3px solid var(--blue);
  }
`;

interface Props {
  job: number;
  photos: Schemas["PhotoChoice"][];
  /** Keys of those chosen; null while nobody chose. */
  chosen: number[] | null;
  onChoose: (chosen: number[]) => void;
}

/** Which photographs the report shows: pressed in or out, the paper beside follows. */
export function PhotoPick({ job, photos, chosen, onChoose }: Props) {
  if (photos.length === 0) return null;
  const shown = new Set(chosen ?? photos.filter((p) => p.is_shown).map((p) => p.id));
  function onPress(id: number) {
    const next = new Set(shown);
    if (!next.delete(id)) next.add(id);
    onChoose(photos.filter((p) => next.has(p.id)).map((p) => p.id));
  }
  return (
    <div>
      <Soft>
        Photographs in the report: {shown.size} of {photos.length}. Press one to take it out or put
        it in.
      </Soft>
      <Tiles $least={110} $gap="6px">
        {photos.map((p) => (
          <Pick
            key={p.id}
            isSelected={shown.has(p.id)}
            onChange={() => onPress(p.id)}
            aria-label={`Photograph ${p.id}: ${p.caption || p.taken_by}`}
          >
            <img src={`/api/jobs/${job}/photos/${p.id}`} alt="" loading="lazy" />
            {p.caption || p.taken_by}
          </Pick>
        ))}
      </Tiles>
    </div>
  );
}
