import type { Schemas } from "../../api/client";
import { Select } from "../../ui/select";
import type { Playing } from "./use-playing";

const OFF = "off";

interface Props {
  sheet: Schemas["Sheet"];
  playing: Playing;
}

/** The choice that a player of the file will offer, where there is one. */
export function PlayedTracks({ sheet, playing: { switched, switchTo } }: Props) {
  return (
    <>
      {sheet.sounds.length > 1 && (
        <Select
          label="Sound that plays"
          value={String(switched.sound)}
          choices={sheet.sounds.map((one) => ({ value: String(one.place), text: one.text }))}
          onChange={(value) => switchTo({ ...switched, sound: Number(value) })}
        />
      )}
      {sheet.subtitles.length > 0 && (
        <Select
          label="Subtitles switched on"
          value={switched.subtitle === null ? OFF : String(switched.subtitle)}
          choices={[
            { value: OFF, text: "Subtitles off" },
            ...sheet.subtitles.map((one) => ({ value: String(one.place), text: `Subtitles: ${one.text}` })),
          ]}
          onChange={(value) => switchTo({ ...switched, subtitle: value === OFF ? null : Number(value) })}
        />
      )}
    </>
  );
}
