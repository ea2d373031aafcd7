import { Button as AriaButton, type ButtonProps } from "react-aria-components";
import styled, { css } from "styled-components";

/** `next` is the press that leads on: the largest of its page. */
export type Look = "next" | "main" | "plain" | "stop";

const Base = styled(AriaButton)<{ $look: Look }>`
  min-height: 48px;
  padding: 8px 18px;
  border: 1.5px solid var(--enamel);
  border-radius: 2px;
  cursor: pointer;
  font-weight: 700;
  white-space: nowrap;
  background: transparent;
  color: var(--enamel);
  ${({ $look }) =>
    ($look === "main" || $look === "next") &&
    css`
      background: var(--enamel);
      color: var(--on-enamel);
    `}
  ${({ $look }) =>
    $look === "next" &&
    css`
      min-height: 60px;
      font-size: var(--name);
      white-space: normal;
    `}
  ${({ $look }) =>
    $look === "stop" &&
    css`
      border: 2px solid var(--red);
      color: var(--ink);
    `}
  &[data-hovered] {
    box-shadow: inset 0 0 0 1.5px currentColor;
  }
  &[data-disabled] {
    cursor: default;
    border: 1.5px dashed var(--edge);
    background: transparent;
    color: var(--soft);
  }
`;

export function Button({ look = "plain", ...props }: ButtonProps & { look?: Look }) {
  return <Base $look={look} {...props} />;
}
