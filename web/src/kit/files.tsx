import { useRef, useState } from "react";
import styled from "styled-components";
import { Button } from "./Button";

const Zone = styled.span<{ $isOver: boolean }>`
  display: inline-flex;
  min-width: 0;
  outline: ${({ $isOver }) => ($isOver ? "3px dashed var(--blue)" : "none")};
  outline-offset: 3px;
`;

interface Props {
  /** What the file is, for whoever does not see the button. */
  label: string;
  /** What stands on the button. */
  children: string;
  accept: string[];
  isMany?: boolean;
  isDisabled?: boolean;
  look?: "main" | "plain";
  onFiles: (files: File[]) => void;
}

/** A file chosen by a press, or dropped on the button. The same file can be chosen twice in a row. */
export function FilePick({ label, children, accept, isMany, onFiles, ...button }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [isOver, setOver] = useState(false);
  const take = (files: File[]) => {
    const wanted = isMany ? files : files.slice(0, 1);
    if (wanted.length) onFiles(wanted);
  };
  return (
    <Zone
      $isOver={isOver}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(!button.isDisabled);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        if (!button.isDisabled) take([...e.dataTransfer.files]);
      }}
    >
      <input
        ref={input}
        type="file"
        hidden
        aria-label={label}
        accept={accept.join(",")}
        multiple={isMany}
        onChange={(e) => {
          take([...(e.target.files ?? [])]);
          e.target.value = "";
        }}
      />
      <Button {...button} onPress={() => input.current?.click()}>
        {children}
      </Button>
    </Zone>
  );
}
