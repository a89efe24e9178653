import { ChevronLeft, ChevronRight } from "lucide-react";

import { useNextScene } from "../../api/bench";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Tip } from "../../ui/tip";
import { onPicture } from "./kept";

type Sheet = Schemas["Sheet"];

/** Going to the next change of scene or the one before, and what is said of it meanwhile. */
export function useScenes(sheet: Sheet, at: number, move: (to: number) => void) {
  const scene = useNextScene(sheet.title_id);
  const go = (before: boolean) => {
    if (scene.isPending) return;
    scene.mutate(
      { at_s: at, before },
      { onSuccess: (found) => found.at_s !== null && move(onPicture(found.at_s, sheet)) },
    );
  };
  // what was said of a moment is over when another one is shown
  const asked = scene.variables?.at_s === at;
  const none = asked && scene.data?.at_s === null ? "No other scene within a minute." : "";
  const ended = asked && scene.isError ? "Nothing could be read there." : none;
  return { go, said: scene.isPending ? "Looking for it…" : ended };
}

export function SceneButtons({ go }: { go: (before: boolean) => void }) {
  return (
    <span className="inline-flex h-7 items-center rounded-lg border border-hairline bg-raised px-0.5 text-[13px] font-medium text-ink">
      <Tip text="Scene before: key p on the strip">
        <Button
          look="quiet"
          size="icon"
          className="size-6"
          aria-label="Scene before"
          onClick={() => go(true)}
        >
          <ChevronLeft size={14} aria-hidden />
        </Button>
      </Tip>
      <span aria-hidden>Scene</span>
      <Tip text="Next scene: key n on the strip">
        <Button look="quiet" size="icon" className="size-6" aria-label="Next scene" onClick={() => go(false)}>
          <ChevronRight size={14} aria-hidden />
        </Button>
      </Tip>
    </span>
  );
}
