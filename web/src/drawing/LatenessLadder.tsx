import styled from "styled-components";

const Drawing = styled.div`
  & svg {
    display: block;
    width: 100%;
    height: auto;
    font-family: inherit;
  }
`;

/** How late each cam is: drawn by the server, the same for screen and paper; names in it are escaped there. */
export function LatenessLadder({ svg }: { svg: string }) {
  return <Drawing dangerouslySetInnerHTML={{ __html: svg }} />;
}
