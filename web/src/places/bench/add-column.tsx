import { Plus } from "lucide-react";
import { useState } from "react";

import { useAddTarget, useGoals } from "../../api/bench";
import { Button } from "../../ui/button";
import { Menu } from "../../ui/menu";
import type { Table } from "./cells";
import { ShareFile } from "./share-file";

/** What else files can be made for: goals, and several devices at once. */
export function AddColumn({ table }: { table: Table }) {
  const goals = useGoals(true);
  const add = useAddTarget();
  const [sharing, setSharing] = useState(false);
  const open = goals.data?.filter((goal) => !goal.on_bench) ?? [];
  return (
    <>
      <Menu
        label="Also make"
        entries={[
          ...(table.targets.filter((column) => column.kind === "device").length > 1
            ? [
                {
                  text: "One file for several devices …",
                  note: "the fewest files that serve them all",
                  onChoose: () => setSharing(true),
                },
              ]
            : []),
          ...open.map((goal) => ({
            text: goal.name,
            note: goal.about,
            onChoose: () => add.mutate({ goal_id: goal.id }),
          })),
        ]}
      >
        <Button>
          <Plus size={15} /> Also make
        </Button>
      </Menu>
      {sharing && <ShareFile table={table} open={sharing} onOpenChange={setSharing} />}
    </>
  );
}
