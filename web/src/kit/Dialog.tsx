import type { ReactNode } from "react";
import { Dialog as AriaDialog, Heading, Modal, ModalOverlay } from "react-aria-components";
import styled from "styled-components";

const Shade = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 30;
  display: grid;
  place-items: start center;
  padding: 8vh 14px 14px;
  background: color-mix(in srgb, var(--ink) 45%, transparent);
`;
const Leaf = styled(Modal)`
  width: min(680px, 100%);
  max-height: 84vh;
  overflow-y: auto;
  background: var(--sheet);
  border: 2px solid var(--enamel);
`;
const Inner = styled(AriaDialog)`
  display: grid;
  gap: 12px;
  padding: 18px;
  outline: none;
`;
const Title = styled(Heading)`
  margin: 0;
  font-size: var(--name);
`;

interface Props {
  title: string;
  isOpen: boolean;
  onLeave: () => void;
  children: ReactNode;
}

/** Something laid over the page until it is answered or left: Escape, or a press beside it. */
export function Dialog({ title, isOpen, onLeave, children }: Props) {
  return (
    <Shade isDismissable isOpen={isOpen} onOpenChange={(open) => !open && onLeave()}>
      <Leaf>
        <Inner>
          <Title slot="title">{title}</Title>
          {children}
        </Inner>
      </Leaf>
    </Shade>
  );
}
