import { useState } from "react";

import type { Schemas } from "../../api/client";
import { type Answers, useNearest } from "../../api/household";
import { Field } from "../../ui/field";
import { Select } from "../../ui/select";
import { Failed } from "../../ui/states";
import { ProfileList } from "../../parts/profile-list";

type Kind = Schemas["DeviceKind"];

const KINDS: [Kind, string][] = [
  ["phone", "phone"], ["tablet", "tablet"], ["tv", "TV"], ["player", "media player"], ["pocket", "pocket player"], ["console", "games console"],
  ["computer", "computer"], ["projector", "projector"], ["car", "car"], ["browser", "web browser"], ["sound", "sound only"],
];
const SCREENS: [string, string][] = [
  ["", "don’t know"], ["480x320", "very small (480 × 320)"], ["854x480", "small (854 × 480)"], ["1280x720", "1280 × 720"],
  ["1920x1080", "full HD (1920 × 1080)"], ["2560x1600", "2560 × 1600"], ["3840x2160", "4K (3840 × 2160)"],
];
const UHD: [string, string][] = [["", "don’t know"], ["yes", "yes"], ["no", "no"]];

/** A few plain questions, and the devices nearest to the answers with what differs. */
export function FindNearest({ chosen, onChoose }: { chosen: Schemas["Profile"] | null; onChoose: (profile: Schemas["Profile"]) => void }) {
  const [kind, setKind] = useState<Kind>("tablet");
  const [year, setYear] = useState("");
  const [screen, setScreen] = useState("");
  const [uhd, setUhd] = useState("");
  const [width, height] = screen.split("x").map(Number);
  const asked = Number(year);
  const answers: Answers = {
    kind,
    ...(asked >= 1995 && asked <= 2100 ? { year: asked } : {}),
    ...(width && height ? { screen_width: width, screen_height: height } : {}),
    ...(uhd ? { plays_uhd: uhd === "yes" } : {}),
  };
  const found = useNearest(answers);
  const pick = (pairs: [string, string][]) => pairs.map(([value, text]) => ({ value: value || "unknown", text }));
  return (
    <>
      <div className="mb-3 grid grid-cols-2 gap-x-6 gap-y-3">
        <Question text="What is it?">
          <Select label="What is it?" value={kind} onChange={(next) => setKind(next as Kind)} choices={pick(KINDS)} />
        </Question>
        <Field label="From which year, about?" value={year} onChange={setYear} placeholder="2016" />
        <Question text="How fine is its screen?">
          <Select label="How fine is its screen?" value={screen || "unknown"} onChange={(next) => setScreen(next === "unknown" ? "" : next)} choices={pick(SCREENS)} />
        </Question>
        <Question text="Does it play 4K?">
          <Select label="Does it play 4K?" value={uhd || "unknown"} onChange={(next) => setUhd(next === "unknown" ? "" : next)} choices={pick(UHD)} />
        </Question>
      </div>
      {found.isError && <Failed error={found.error} onRetry={() => void found.refetch()} />}
      {found.data && (
        <ProfileList
          label="Nearest devices"
          rows={found.data.map((match) => ({ profile: match.profile, notes: match.differences.length ? match.differences : ["all you said fits"] }))}
          chosen={chosen}
          onChoose={onChoose}
        />
      )}
    </>
  );
}

function Question({ text, children }: { text: string; children: React.ReactNode }) {
  return (
    <div>
      <span className="mb-1 block text-quiet">{text}</span>
      {children}
    </div>
  );
}
