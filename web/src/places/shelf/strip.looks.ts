import { cva } from "class-variance-authority";

export const stripLooks = cva(
  "absolute top-0 flex items-center overflow-hidden rounded-[5px] border text-left transition-shadow",
  {
    variants: {
      role: {
        feature: "border-river bg-river text-river-ink",
        episode: "border-mist-line bg-mist text-ink",
        play_all: "border-mist-line bg-mist text-ink",
        extra: "border-hairline bg-raised text-ink",
        menu: "border-dotted border-quiet bg-ground text-quiet",
        duplicate: "border-4 border-double border-hairline bg-ground text-quiet",
      },
      open: { true: "ring-2 ring-marigold ring-offset-2 ring-offset-ground", false: "" },
      large: { true: "h-[26px] text-[12.5px]", false: "h-[20px] text-[11.5px]" },
    },
  },
);
