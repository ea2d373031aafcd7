import type { ReactNode } from "react";
import { Button as AriaButton, type ButtonProps } from "react-aria-components";
import { Link } from "react-router";
import styled, { css } from "styled-components";

/** `next` is the press that leads on: the largest of its page. */
export type Look = "next" | "main" | "plain" | "stop";

const looks = css<{ $look: Look }>`
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
const Base = styled(AriaButton)<{ $look: Look }>`
  ${looks}
`;
const Anchor = styled(Link)<{ $look: Look }>`
  ${looks}
  display: inline-flex;
  align-items: center;
  text-decoration: none;
  &:hover {
    box-shadow: inset 0 0 0 1.5px currentColor;
  }
`;

export function Button({ look = "plain", ...props }: ButtonProps & { look?: Look }) {
  return <Base $look={look} {...props} />;
}

/** A press that leads to another page. */
export function ButtonLink({
  look = "plain",
  ...props
}: {
  look?: Look;
  to: string;
  children: ReactNode;
}) {
  return <Anchor $look={look} {...props} />;
}
