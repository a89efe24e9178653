import { GripVertical } from "lucide-react";

interface Props {
  /** What the row is called. */
  name: string;
  /** What moving it does, in a sentence that stands beside the pointer. */
  hint: string;
  label: string;
  onDrag: (begins: boolean) => void;
  /** Whether the key means anything here. */
  onKey: (key: string) => boolean;
}

/** Takes hold of the row that it stands in: dragged by mouse, moved by keys. */
export function RowHandle({ name, hint, label, onDrag, onKey }: Props) {
  return (
    <button
      type="button"
      draggable
      title={hint}
      aria-label={label}
      className="cursor-grab rounded p-0.5 text-quiet hover:text-ink active:cursor-grabbing"
      onDragStart={(event) => {
        event.dataTransfer.effectAllowed = "move";
        event.dataTransfer.setData("text/plain", name);
        const row = event.currentTarget.parentElement;
        if (row) event.dataTransfer.setDragImage(row, 30, 20);
        onDrag(true);
      }}
      onDragEnd={() => onDrag(false)}
      onKeyDown={(event) => {
        if (onKey(event.key)) event.preventDefault();
      }}
    >
      <GripVertical size={15} aria-hidden />
    </button>
  );
}

/** Where something dragged would come to lie, as a line at the row's edge. */
export const DROP_MARKS = {
  above: "shadow-[inset_0_2px_0_var(--color-marigold)]",
  below: "shadow-[inset_0_-2px_0_var(--color-marigold)]",
  none: "",
};

/** Whether the pointer is over a row's lower half. */
export function isBelow(event: React.DragEvent): boolean {
  const { top, height } = event.currentTarget.getBoundingClientRect();
  return event.clientY > top + height / 2;
}
