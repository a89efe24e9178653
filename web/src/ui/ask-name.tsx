import { useState } from "react";

import { Button } from "./button";
import { Dialog } from "./dialog";
import { Field } from "./field";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  about: string;
  label: string;
  value: string;
  onName: (name: string) => void;
}

/** Asks for a name; an empty one is allowed and means the old one. */
export function AskName({ open, onOpenChange, title, about, label, value, onName }: Props) {
  const [text, setText] = useState(value);
  const done = () => {
    onName(text);
    onOpenChange(false);
  };
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title={title}
      about={about}
      footer={
        <>
          <Button onClick={() => onOpenChange(false)}>Cancel</Button>
          <Button look="primary" onClick={done}>
            Use this name
          </Button>
        </>
      }
    >
      <Field label={label} value={text} onChange={setText} onEnter={done} autoFocus />
    </Dialog>
  );
}
