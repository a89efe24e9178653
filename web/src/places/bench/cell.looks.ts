import { cva } from "class-variance-authority";

export const cellLooks = cva(
  "relative flex h-full min-h-[52px] w-full flex-col justify-center rounded-lg px-3 py-1.5 text-left",
  {
    variants: {
      verdict: {
        plays: "border border-transparent hover:border-hairline",
        rewrap: "border border-hairline bg-raised hover:border-quiet",
        convert: "border border-mist-line bg-mist hover:border-river",
        cannot: "border border-transparent hatch-cannot text-mist-quiet hover:border-hairline",
      },
    },
  },
);
