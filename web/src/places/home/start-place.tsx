import { useState } from "react";
import { useNavigate } from "react-router";

import type { Schemas } from "../../api/client";
import { useAddFilmFolder, useChangeHome, useFilmFolders, useHome } from "../../api/home";
import { useAddDevice, useHousehold } from "../../api/household";
import { ActBar } from "../../parts/act-bar";
import { Button } from "../../ui/button";
import { Notice } from "../../ui/notice";
import { Failed, Loading } from "../../ui/states";
import { type ChosenDevice, DeviceChoice } from "./device-choice";
import { FilmChoice } from "./film-choice";
import { OutputChoice } from "./output-choice";
import { Section } from "./section";

/**
 * The first page of an empty home: three questions, each with an answer proposed, each of which can be left
 * out.
 */
export function StartPlace() {
  const home = useHome();
  const films = useFilmFolders();
  const household = useHousehold();
  const asked = [home, films, household];
  const failed = asked.find((query) => query.isError);
  if (failed?.error)
    return <Failed error={failed.error} onRetry={() => asked.forEach((query) => void query.refetch())} />;
  if (!home.data || !films.data || !household.data) return <Loading what="what is on this machine" />;
  return <Questions home={home.data} proposals={films.data.proposals} families={household.data.families} />;
}

interface Props {
  home: Schemas["Home"];
  proposals: Schemas["Proposal"][];
  families: Schemas["Family"][];
}

function Questions({ home, proposals, families }: Props) {
  const [folders, setFolders] = useState<ReadonlySet<string>>(
    () => new Set(proposals.map(({ path }) => path)),
  );
  const [output, setOutput] = useState(home.output.path);
  const [devices, setDevices] = useState<ChosenDevice[]>([]);
  const [fault, setFault] = useState("");
  const navigate = useNavigate();
  const addFolder = useAddFilmFolder();
  const addDevice = useAddDevice();
  const change = useChangeHome();
  const busy = addFolder.isPending || addDevice.isPending || change.isPending;
  const places = home.proposed_outputs.some(({ path }) => path === home.output.path)
    ? home.proposed_outputs
    : [home.output, ...home.proposed_outputs];

  const choose = (path: string, on: boolean) =>
    setFolders((old) => new Set(on ? [...old, path] : [...old].filter((one) => one !== path)));
  const start = async () => {
    setFault("");
    try {
      // what is refused stops here, with everything that was chosen still on the page
      if (output !== home.output.path) await change.mutateAsync({ output });
      for (const path of folders) await addFolder.mutateAsync(path);
      for (const { profile, yes, no } of devices)
        await addDevice.mutateAsync({ profile_id: profile.id, name: "", yes, no });
      await change.mutateAsync({ set_up: true });
    } catch (error) {
      setFault(error instanceof Error ? error.message : "That did not work.");
      return;
    }
    void navigate("/shelf");
  };
  const skip = () => change.mutate({ set_up: true }, { onSuccess: () => void navigate("/shelf") });

  return (
    <div className="mx-auto flex w-full max-w-[1080px] flex-1 flex-col pb-4">
      <div className="px-6 pt-8 pb-6 max-md:px-3">
        <h1 className="text-[30px] leading-tight">Three things, and Rheon can begin</h1>
        <p className="mt-1.5 max-w-[62ch] text-quiet">
          It has looked around on this machine already. Change what is not right, or leave it for later: all
          of this is found again under Settings and in the Household.
        </p>
      </div>
      <Section
        title="Where are your films?"
        about="Discs that you have ripped, images, films and series. They are only read, never changed."
      >
        <FilmChoice proposals={proposals} chosen={folders} onChange={choose} />
      </Section>
      <Section title="Where should files go?" about="What Rheon makes for your devices is put here.">
        <OutputChoice places={places} chosen={output} onChange={setOutput} />
      </Section>
      <Section
        title="What do you watch on?"
        about="Phones, tablets, televisions, players. What a thing plays follows from what it is and how old."
      >
        <DeviceChoice families={families} chosen={devices} onChange={setDevices} />
      </Section>
      {fault && (
        <div className="px-6 pb-3 max-md:px-3">
          <Notice look="fault">{fault}</Notice>
        </div>
      )}
      <ActBar>
        <span className="font-semibold">{summary(folders.size, devices.length)}</span>
        <div className="ml-auto flex items-center gap-4">
          <Button look="onDeep" size="text" disabled={busy} onClick={skip}>
            Not now
          </Button>
          <Button look="accent" disabled={busy} onClick={() => void start()}>
            {folders.size ? "Read the films" : "Go on"}
          </Button>
        </div>
      </ActBar>
    </div>
  );
}

function summary(folders: number, devices: number): string {
  const films = folders ? `${folders} ${folders === 1 ? "folder" : "folders"} of films` : "no films yet";
  return `${films}, ${devices ? `${devices} ${devices === 1 ? "device" : "devices"}` : "no devices yet"}`;
}
