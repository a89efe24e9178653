import { Upload } from "lucide-react";
import { useRef, useState } from "react";

import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";

const LARGEST_BYTES = 1_000_000;

/** A list as text: pasted, typed, chosen or dropped. */
export function ListInput({ text, onText }: { text: string; onText: (text: string) => void }) {
  const file = useRef<HTMLInputElement>(null);
  const [refused, setRefused] = useState("");
  const read = async (chosen: File | undefined) => {
    if (!chosen) return;
    const fits = chosen.size <= LARGEST_BYTES;
    setRefused(fits ? "" : `${chosen.name} is too large to be a list of chapters.`);
    if (fits) onText(await chosen.text());
  };
  return (
    <div
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        if (!event.dataTransfer.files.length) return;
        event.preventDefault();
        void read(event.dataTransfer.files[0]);
      }}
    >
      <textarea
        aria-label="List of chapters"
        value={text}
        rows={6}
        autoFocus
        spellCheck={false}
        onChange={(event) => onText(event.target.value)}
        placeholder={
          "Low water\nThe weir\n\nor with the moments at which they begin:\n0:00 Low water\n12:30 The weir"
        }
        className="w-full rounded-lg border border-hairline bg-ground px-2.5 py-1.5 placeholder:text-quiet hover:border-quiet"
      />
      <p className="mt-1 flex items-center gap-3 text-[12.5px] text-quiet">
        <Button size="small" onClick={() => file.current?.click()}>
          <Upload size={13} /> Open a file
        </Button>
        A line for each chapter; CUE, FFMETADATA, CHAPTER01=, WebVTT, JSON and Matroska XML are read too.
      </p>
      <input
        ref={file}
        type="file"
        hidden
        aria-label="File with chapters"
        accept=".txt,.xml,.json,.vtt,.srt,.cue,.ffmetadata,.meta"
        onChange={(event) => void read(event.target.files?.[0])}
      />
      {refused && <Notice look="fault">{refused}</Notice>}
    </div>
  );
}
