import { Plus, Users } from "lucide-react";
import { useState } from "react";

import { useAddMember, useChangeHousehold, useChangeMember, useRemoveMember } from "../../api/household";
import type { Schemas } from "../../api/client";
import { AskName } from "../../ui/ask-name";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Field } from "../../ui/field";
import { Notice } from "../../ui/notice";
import { WishesForm, wishesText } from "./wishes-form";

type Household = Schemas["Household"];
type Member = Schemas["Member"];

/** Who lives here and what they like: everyone first, then those who like something else. */
export function People({ household }: { household: Household }) {
  const [open, setOpen] = useState<number | "everyone" | "new" | null>(null);
  const add = useAddMember();
  const member = household.members.find((entry) => entry.id === open);
  return (
    <section aria-label="People" className="mb-4 flex flex-wrap gap-2 px-6 max-md:px-3">
      <Chip
        name="Everyone"
        note={wishesText({ ...household.wishes, languages: household.languages }) || "no wishes yet"}
        onOpen={() => setOpen("everyone")}
        icon
      />
      {household.members.map((entry) => (
        <Chip
          key={entry.id}
          name={entry.name}
          note={wishesText(entry.wishes) || "as everyone"}
          onOpen={() => setOpen(entry.id)}
        />
      ))}
      <Button look="quiet" onClick={() => setOpen("new")}>
        <Plus size={14} /> Somebody with other wishes
      </Button>
      {open === "everyone" && <EveryoneDialog household={household} onClose={() => setOpen(null)} />}
      {member && <MemberDialog key={member.id} member={member} onClose={() => setOpen(null)} />}
      {open === "new" && (
        <AskName
          open
          onOpenChange={(next) => !next && setOpen(null)}
          title="Somebody of the household"
          about="What they like holds on their devices."
          label="Name"
          value=""
          onName={(name) => name.trim() && add.mutate(name.trim())}
        />
      )}
    </section>
  );
}

function Chip({
  name,
  note,
  onOpen,
  icon,
}: {
  name: string;
  note: string;
  onOpen: () => void;
  icon?: boolean;
}) {
  return (
    <button
      type="button"
      onClick={onOpen}
      className="flex max-w-80 items-center gap-2.5 rounded-lg border border-hairline bg-raised px-3 py-1.5 text-left hover:border-quiet"
    >
      {icon && <Users size={16} className="shrink-0 text-river" aria-hidden />}
      <span className="min-w-0">
        <span className="block truncate font-semibold">{name}</span>
        <span className="block truncate text-[12.5px] text-quiet">{note}</span>
      </span>
    </button>
  );
}

function EveryoneDialog({ household, onClose }: { household: Household; onClose: () => void }) {
  const change = useChangeHousehold();
  return (
    <Dialog
      open
      onOpenChange={(next) => !next && onClose()}
      title="Everyone"
      about="This holds wherever a device and its member say nothing else."
      footer={
        <Button look="primary" onClick={onClose}>
          Done
        </Button>
      }
    >
      {change.isError && <Notice look="fault">{change.error.message}</Notice>}
      <WishesForm
        value={{ ...household.wishes, languages: household.languages }}
        onChange={(wishes) => change.mutate(wishes)}
        otherwise=""
      />
    </Dialog>
  );
}

function MemberDialog({ member, onClose }: { member: Member; onClose: () => void }) {
  const change = useChangeMember(member.id);
  const remove = useRemoveMember(member.id);
  const [name, setName] = useState(member.name);
  const rename = () => name.trim() && name !== member.name && change.mutate({ name });
  return (
    <Dialog
      open
      onOpenChange={(next) => !next && onClose()}
      title={member.name}
      about="What they like holds on their devices."
      footer={
        <>
          <Button
            look="quiet"
            className="mr-auto"
            onClick={() => remove.mutate(undefined, { onSuccess: onClose })}
          >
            Remove {member.name}
          </Button>
          <Button look="primary" onClick={() => (rename(), onClose())}>
            Done
          </Button>
        </>
      }
    >
      {change.isError && <Notice look="fault">{change.error.message}</Notice>}
      <div className="mb-3" onBlur={rename}>
        <Field label="Name" value={name} onChange={setName} onEnter={rename} />
      </div>
      <WishesForm
        value={member.wishes}
        onChange={(wishes) => change.mutate(wishes)}
        otherwise="as everyone"
      />
    </Dialog>
  );
}
