import { useEffect, useRef, useState, type DragEvent } from "react";

import { useKeepPicture } from "../../api/artwork";
import { pictureData } from "../../domain/pictures";

/** A picture that is chosen, dropped or pasted. */
export function useBrought(onPicture: (picture: string) => void) {
  const file = useRef<HTMLInputElement>(null);
  const keep = useKeepPicture();
  const [fault, setFault] = useState<Error | null>(null);
  const take = async (blob: Blob | undefined | null) => {
    if (!blob) return;
    setFault(null);
    try {
      onPicture((await keep.mutateAsync(await pictureData(blob))).picture);
    } catch (error) {
      setFault(error instanceof Error ? error : new Error("This picture could not be taken."));
    }
  };
  const taken = useRef(take);
  useEffect(() => {
    taken.current = take;
  });
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const image = [...(event.clipboardData?.items ?? [])].find(({ type }) => type.startsWith("image/"));
      // text that is typed somewhere is not meant for it
      const typing = event.target instanceof HTMLElement && event.target.closest("input, textarea");
      if (image && !typing) void taken.current(image.getAsFile());
    };
    addEventListener("paste", paste);
    return () => removeEventListener("paste", paste);
  }, []);
  return {
    error: fault,
    open: () => file.current?.click(),
    dropping: {
      onDragOver: (event: DragEvent) => event.preventDefault(),
      onDrop: (event: DragEvent) => {
        event.preventDefault();
        void take(event.dataTransfer.files[0]);
      },
    },
    input: (
      <input
        ref={file}
        type="file"
        hidden
        aria-label="Picture from a file"
        accept="image/jpeg,image/png,image/webp"
        onChange={(event) => void take(event.target.files?.[0])}
      />
    ),
  };
}
