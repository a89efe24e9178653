import { useState } from "react";

import { useAddOwnDevice, usePairing, useOpenPairing, useTakeAsked } from "../../api/household";
import type { Schemas } from "../../api/client";
import { AbilityList } from "../../parts/ability-list";
import { CodeCard } from "../../parts/code-card";
import { Bar } from "../../ui/bar";
import { Button } from "../../ui/button";
import { Dialog } from "../../ui/dialog";
import { Field } from "../../ui/field";
import { Notice } from "../../ui/notice";
import { Select } from "../../ui/select";
import { NotYet } from "../../ui/states";
import { EvidenceList } from "./evidence-list";

type Pairing = Schemas["Pairing"];

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  devices: Schemas["Device"][];
}

const NEW = "new";

/** Lets a device find out by itself what it plays: a page for its browser, behind a code that opens once. */
export function AskDevice({ open, onOpenChange, devices }: Props) {
  const pairing = usePairing();
  const opening = useOpenPairing();
  const own = useAddOwnDevice();
  const take = useTakeAsked();
  const [which, setWhich] = useState(NEW);
  const [name, setName] = useState("");
  const said = pairing.data;
  const known = devices.find(({ id }) => String(id) === which);
  const done = { onSuccess: () => onOpenChange(false) };
  const add = () => {
    if (!said?.document) return;
    const document = JSON.stringify(said.document);
    if (known) take.mutate({ id: known.id, document }, done);
    else own.mutate({ document, name }, done);
  };
  return (
    <Dialog
      open={open}
      onOpenChange={onOpenChange}
      title="Ask the device itself"
      about="Open a page in its browser; it plays a few tiny clips there and tells Rheon what works."
      footer={
        <>
          {said?.open && (
            <Button className="mr-auto" onClick={() => opening.mutate(false)}>
              Turn the page off
            </Button>
          )}
          {Boolean(said?.document) && (
            <Button className="mr-auto" onClick={() => opening.mutate(false)}>
              Drop the answers
            </Button>
          )}
          <Button onClick={() => onOpenChange(false)}>Close</Button>
          {said?.document ? (
            <Button look="primary" disabled={own.isPending || take.isPending} onClick={add}>
              {known ? `Make ${known.name} surer` : "Add this device"}
            </Button>
          ) : (
            !said?.open && (
              <Button
                look="primary"
                disabled={opening.isPending || !said}
                onClick={() => opening.mutate(true)}
              >
                Turn the page on
              </Button>
            )
          )}
        </>
      }
    >
      <NotYet query={pairing} what="the page" />
      {(opening.isError || own.isError || take.isError) && (
        <Notice look="fault">{(opening.error ?? own.error ?? take.error)?.message}</Notice>
      )}
      {said?.problem && (
        <div className="mb-3">
          <Notice look="fault">{said.problem}</Notice>
        </div>
      )}
      {said && !said.open && !said.document && (
        <p className="text-quiet">
          The page is off. Turned on, it is the only thing of Rheon that the home network can reach: for a
          quarter of an hour, for one device, and only with a code that is shown here.
        </p>
      )}
      {said?.open && <Open pairing={said} />}
      {said?.document && (
        <Answered
          said={said}
          known={known}
          devices={devices}
          which={which}
          onWhich={setWhich}
          name={name}
          onName={setName}
        />
      )}
    </Dialog>
  );
}

interface AnsweredProps {
  said: Pairing;
  known: Schemas["Device"] | undefined;
  devices: Schemas["Device"][];
  which: string;
  onWhich: (which: string) => void;
  name: string;
  onName: (name: string) => void;
}

/** What a device answered, and which device that is. */
function Answered({ said, known, devices, which, onWhich, name, onName }: AnsweredProps) {
  return (
    <>
      <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
        <span>
          <span className="mb-1 block text-quiet">Which device is it?</span>
          <Select
            label="Which device is it?"
            value={which}
            onChange={onWhich}
            choices={[
              { value: NEW, text: "a new one" },
              ...devices.map((device) => ({ value: String(device.id), text: device.name })),
            ]}
          />
        </span>
        {!known && (
          <Field
            label="Its name at home"
            value={name}
            onChange={onName}
            placeholder="The device that was asked"
            className="min-w-[200px] flex-1"
          />
        )}
      </div>
      {known && (
        <p className="mt-2 text-quiet">
          What its browser played becomes proven. What it did not play says nothing of its other players, and
          changes nothing.
        </p>
      )}
      <AbilityList abilities={said.abilities} />
      <EvidenceList evidence={said.evidence} />
    </>
  );
}

function Open({ pairing }: { pairing: Pairing }) {
  const until = pairing.until
    ? new Date(pairing.until).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" })
    : "";
  return (
    <CodeCard opened={pairing}>
      <p className="text-quiet">The code opens once, until {until}.</p>
      {pairing.at_clip > 0 && (
        <div className="mt-3" role="status">
          <Bar fraction={pairing.at_clip / pairing.clip_count} label="Clips tried" />
          <p className="mt-1 text-quiet">
            The device is at clip {pairing.at_clip} of {pairing.clip_count}.
          </p>
        </div>
      )}
    </CodeCard>
  );
}
