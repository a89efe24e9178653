import { X } from "lucide-react";

import type { Schemas } from "../../api/client";
import { DeviceFinder } from "../../parts/device-finder";
import { answersOf, useFinder } from "../../parts/finder";
import { Button } from "../../ui/button";

/** A device that is to be added, with what was answered about it. */
export interface ChosenDevice {
  profile: Schemas["Profile"];
  yes: Schemas["QuestionId"][];
  no: Schemas["QuestionId"][];
}

interface Props {
  families: Schemas["Family"][];
  chosen: ChosenDevice[];
  onChange: (chosen: ChosenDevice[]) => void;
}

/** What people watch on; several can be chosen, two of a kind too. */
export function DeviceChoice({ families, chosen, onChange }: Props) {
  const finding = useFinder();
  return (
    <>
      {chosen.length > 0 && (
        <ul aria-label="Chosen devices" className="mb-3 flex flex-wrap gap-2">
          {chosen.map((device, place) => (
            <li
              key={`${device.profile.id} ${place}`}
              className="flex items-center gap-1 rounded-lg border border-mist-line bg-mist py-1 pr-1 pl-3"
            >
              <span className="font-semibold">{device.profile.name}</span>
              <Button
                look="quiet"
                size="icon"
                className="size-6"
                aria-label={`Leave ${device.profile.name} out`}
                onClick={() => onChange(chosen.filter((one) => one !== device))}
              >
                <X size={14} />
              </Button>
            </li>
          ))}
        </ul>
      )}
      <DeviceFinder
        families={families}
        finding={finding}
        folded
        act={(profile, heard) => (
          <div className="mt-4 flex justify-end">
            <Button
              look="primary"
              onClick={() => {
                onChange([...chosen, { profile, ...answersOf(finding.finder, heard) }]);
                finding.clear();
              }}
            >
              That is one of mine
            </Button>
          </div>
        )}
      />
    </>
  );
}
