import { useRef } from "react";
import { DropZone } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./controls";

const Zone = styled(DropZone)`
  display: inline-flex;
  align-items: center;
  min-width: 0;
  &[data-drop-target] {
    outline: 3px dashed var(--blue);
    outline-offset: 3px;
  }
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
  const take = (files: File[]) => {
    const wanted = isMany ? files : files.slice(0, 1);
    if (wanted.length) onFiles(wanted);
  };
  return (
    <Zone
      aria-label={`${label}: drop it here`}
      isDisabled={button.isDisabled}
      onDrop={(e) => {
        const dropped = e.items.filter((item) => item.kind === "file");
        void Promise.all(dropped.map((item) => item.getFile())).then(take);
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
