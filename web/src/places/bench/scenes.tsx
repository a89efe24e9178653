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
    <>
      <Tip text="Key p on the strip">
        <Button size="small" aria-label="Scene before" onClick={() => go(true)}>
          <ChevronLeft size={13} aria-hidden /> Scene
        </Button>
      </Tip>
      <Tip text="Key n on the strip">
        <Button size="small" aria-label="Next scene" onClick={() => go(false)}>
          Scene <ChevronRight size={13} aria-hidden />
        </Button>
      </Tip>
    </>
  );
}
