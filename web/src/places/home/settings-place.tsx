import { useChangeHome, useHome } from "../../api/home";
import type { Schemas } from "../../api/client";
import { PlaceHead } from "../../parts/place-head";
import { Notice } from "../../ui/notice";
import { NotYet } from "../../ui/states";
import { FilmFolders } from "./film-folders";
import { HardwareChoice } from "./hardware-choice";
import { LookUpChoice } from "./look-up-choice";
import { NamingChoice } from "./naming-choice";
import { OutputChoice } from "./output-choice";
import { Section } from "./section";
import { WhenDone } from "./when-done";
import { WhoMay } from "./who-may";

/** How this installation is set up. */
export function SettingsPlace() {
  const home = useHome();
  const change = useChangeHome();
  return (
    <div className="mx-auto w-full max-w-[1080px] flex-1 pb-8">
      <PlaceHead name="Settings" />
      <NotYet query={home} what="the settings" />
      {home.data && (
        <>
          <Section title="Films" about="Folders of which everything is on the Shelf. They are only read.">
            <FilmFolders />
          </Section>
          <Section title="Files" about="Where new files are put; what was made before stays where it is.">
            <OutputChoice
              places={placesOf(home.data)}
              chosen={home.data.output.path}
              onChange={(output) => change.mutate({ output })}
            />
            {change.isError && (
              <div className="mt-3">
                <Notice look="fault">{change.error.message}</Notice>
              </div>
            )}
          </Section>
          <Section
            title="Names of files"
            about="Patterns make them of what is known of a work. What was made before keeps its name."
          >
            <NamingChoice />
          </Section>
          <Section
            title="Looking works up"
            about="A service can tell titles, years and episodes by a name. It is off until you allow it."
          >
            <LookUpChoice />
          </Section>
          <Section
            title="Graphics chip"
            about="Some machines have one that makes pictures much quicker than software. Each way to it is tried with a short encode."
          >
            <HardwareChoice />
          </Section>
          <Section
            title="When all is made"
            about="What this browser does then, while a page of Rheon is open in it."
          >
            <WhenDone />
          </Section>
          <Section
            title="Who may open this"
            about="Rheon shows everything that it has to whoever it lets in."
          >
            <WhoMay home={home.data} />
          </Section>
          <Section
            title="Set at the start"
            about="Flags come before variables, variables before rheon.toml. Changes count from the next start on."
          >
            <SettingsTable lines={home.data.settings} />
          </Section>
        </>
      )}
    </div>
  );
}

function placesOf(home: Schemas["Home"]): Schemas["Place"][] {
  return home.proposed_outputs.some(({ path }) => path === home.output.path)
    ? home.proposed_outputs
    : [home.output, ...home.proposed_outputs];
}

function SettingsTable({ lines }: { lines: Schemas["SettingLine"][] }) {
  return (
    <div className="overflow-x-auto rounded-card border border-hairline bg-raised">
      <table className="w-full text-left">
        <thead>
          <tr className="border-b border-hairline text-[12.5px] text-quiet">
            <th className="px-3 py-2 font-normal">Setting</th>
            <th className="px-3 py-2 font-normal">Value</th>
            <th className="px-3 py-2 font-normal">From</th>
          </tr>
        </thead>
        <tbody className="divide-y divide-hairline">
          {lines.map((line) => (
            <tr key={line.name} className="align-top">
              <th scope="row" className="px-3 py-2 font-semibold" title={line.variable}>
                {line.name}
                <span className="block max-w-[34ch] text-[12.5px] font-normal text-quiet max-sm:hidden">
                  {line.about}
                </span>
              </th>
              <td className="px-3 py-2 [overflow-wrap:anywhere]">{line.value || "–"}</td>
              <td className="min-w-[92px] px-3 py-2 [overflow-wrap:anywhere] text-quiet">{line.origin}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
