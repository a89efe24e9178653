import { MoreHorizontal } from "lucide-react";
import { useRef, useState } from "react";

import { useApplySet, useTransfer, useForgetSet, useKeepSet, useTakeSet } from "../../api/bench";
import { under } from "../../api/base";
import type { Schemas } from "../../api/client";
import { AskName } from "../../ui/ask-name";
import { Button } from "../../ui/button";
import { Menu, type MenuEntry } from "../../ui/menu";
import { Notice } from "../../ui/notice";

type Sheet = Schemas["Sheet"];

/** Gives this sheet's settings to other titles, and keeps them under a name. */
export function SheetMenu({ sheet }: { sheet: Sheet }) {
  const transfer = useTransfer(sheet.title_id, sheet.target_id);
  const keep = useKeepSet(sheet.title_id, sheet.target_id);
  const apply = useApplySet(sheet.title_id, sheet.target_id);
  const take = useTakeSet();
  const forget = useForgetSet();
  const [naming, setNaming] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const own = sheet.pins.length > 0 || sheet.own_balance;
  const settings = sheet.pins.length === 1 ? "1 setting" : `${sheet.pins.length} settings`;
  const entries: MenuEntry[] = [
    ...(own && sheet.siblings
      ? [
          {
            text: `Give to its ${sheet.siblings} siblings`,
            note: `${settings}, for ${sheet.target_name}; each keeps its own name`,
            onChoose: () => transfer.mutate("siblings"),
          },
        ]
      : []),
    ...(own && sheet.picked
      ? [{ text: `Give to all ${sheet.picked} picked titles`, onChoose: () => transfer.mutate("picked") }]
      : []),
    ...(own
      ? [
          {
            text: "Keep under a name …",
            note: "to use them again elsewhere",
            onChoose: () => setNaming(true),
          },
        ]
      : []),
    ...sheet.sets.flatMap((set) => [
      { text: `Use “${set.name}”`, note: `${set.pins} settings`, onChoose: () => apply.mutate(set.id) },
      {
        text: `Save “${set.name}” as a file`,
        onChoose: () => window.location.assign(under(`/api/bench/sets/${set.id}/pins.json`)),
      },
      { text: `Forget “${set.name}”`, onChoose: () => forget.mutate(set.id) },
    ]),
    { text: "Take a set from a file …", onChoose: () => file.current?.click() },
  ];
  const failed = [transfer, keep, apply, take, forget].find((change) => change.isError)?.error;
  return (
    <>
      <Menu label="Use these settings elsewhere" entries={entries}>
        <Button>
          Settings <MoreHorizontal size={15} />
        </Button>
      </Menu>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        aria-label="Set of settings"
        className="hidden"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) void chosen.text().then((document) => take.mutate(document));
          event.target.value = "";
        }}
      />
      {(failed || transfer.data || take.data) && (
        <div className="basis-full" role="status">
          <Notice look={failed ? "fault" : "reason"}>
            {failed
              ? failed.message
              : transfer.data
                ? transferText(transfer.data)
                : `“${take.data?.name}” can be used now.`}
          </Notice>
        </div>
      )}
      {naming && (
        <AskName
          open
          onOpenChange={setNaming}
          title="Keep these settings"
          about="Under a name of yours, such as “Our usual”. One of that name is replaced."
          label="Name"
          value="Our usual"
          onName={(name) => name.trim() && keep.mutate(name.trim())}
        />
      )}
    </>
  );
}

function transferText(done: Schemas["Transferred"]): string {
  const count =
    done.count === 1 ? "One title has these settings too." : `${done.count} titles have these settings too.`;
  return done.left.length ? `${count} Not taken along: ${done.left.join("; ")}.` : count;
}
