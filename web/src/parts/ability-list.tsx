import type { Schemas } from "../api/client";
import { Tip } from "../ui/tip";
import { SureLegend, SureMark } from "./sure-mark";

type Ability = Schemas["Ability"];

/** What a device can do, topic by topic; where not all is equally sure, each line says how sure it is. */
export function AbilityList({ abilities }: { abilities: Ability[] }) {
  const mixed = new Set(abilities.map(({ sure }) => sure)).size > 1;
  const topics = [...new Set(abilities.map(({ topic }) => topic))];
  return (
    <>
      <dl className="mt-3 grid grid-cols-[74px_1fr] gap-x-3 gap-y-1.5 text-[13px]">
        {topics.map((topic) => (
          <div key={topic} className="contents">
            <dt className="text-quiet">{topic}</dt>
            <dd>
              <ul>
                {abilities
                  .filter((one) => one.topic === topic)
                  .map((one) => (
                    <Line key={one.key} ability={one} marked={mixed} />
                  ))}
              </ul>
            </dd>
          </div>
        ))}
      </dl>
      {mixed && <SureLegend sures={abilities.map(({ sure }) => sure)} />}
    </>
  );
}

/** A line; its ground shows when one points at it. */
function Line({ ability, marked }: { ability: Ability; marked: boolean }) {
  return (
    <li>
      <Tip text={[ability.why, ability.point].filter(Boolean).join(" ")}>
        <button
          type="button"
          className={`flex cursor-default gap-1.5 text-left ${ability.sure === "doubtful" ? "text-quiet" : ""}`}
        >
          {marked && <SureMark sure={ability.sure} />}
          <span>{ability.text.charAt(0).toUpperCase() + ability.text.slice(1)}</span>
        </button>
      </Tip>
    </li>
  );
}
