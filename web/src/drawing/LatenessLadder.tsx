import { useRef } from "react";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";
import { useWidth } from "./plot/useWidth";

const Drawing = styled.div`
  & svg {
    display: block;
    width: 100%;
    height: auto;
    font-family: inherit;
  }
`;

/**
 * How late each cam is: drawn by the server, the same for screen and paper; names in it are escaped
 * there. Of its drawings the widest that there is room for, so that its letters keep their size.
 */
export function LatenessLadder({ drawings }: { drawings: Schemas["LadderDrawing"][] }) {
  if (!drawings.length)
    return <Soft>No cam has been read. Take a capture: it reads all of them at once.</Soft>;
  return <Drawn drawings={drawings} />;
}

function Drawn({ drawings }: { drawings: Schemas["LadderDrawing"][] }) {
  const place = useRef<HTMLDivElement>(null);
  const wide = useWidth(place);
  const fitting = drawings.filter((d) => d.least_px <= wide).pop() ?? drawings[0];
  return <Drawing ref={place} dangerouslySetInnerHTML={{ __html: fitting?.svg ?? "" }} />;
}
