import { useState } from "react";

import { useSetLanguages } from "../../api/queries";

/** The languages the household understands, the dearest first, as tags: `en, es`. */
export function Languages({ languages }: { languages: string[] }) {
  const set = useSetLanguages();
  const [text, setText] = useState<string | null>(null);
  const names = new Intl.DisplayNames(undefined, { type: "language" });
  const commit = () => {
    if (text !== null) set.mutate(text.split(/[\s,;]+/).filter(Boolean));
    setText(null);
  };
  return (
    <label className="flex items-center gap-2 text-quiet" title={languages.map((tag) => names.of(tag)).join(", ")}>
      Languages
      <input
        value={text ?? languages.join(", ")}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="h-9 w-24 rounded-lg border border-hairline bg-raised px-2.5 text-ink"
      />
    </label>
  );
}
