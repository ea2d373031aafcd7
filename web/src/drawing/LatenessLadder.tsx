import styled from "styled-components";
import { Soft } from "../kit/page";

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
 * there.
 */
export function LatenessLadder({ svg }: { svg: string }) {
  if (!svg) return <Soft>No cam has been read. Take a capture: it reads all of them at once.</Soft>;
  return <Drawing dangerouslySetInnerHTML={{ __html: svg }} />;
}
