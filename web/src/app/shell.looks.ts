import { cva } from "class-variance-authority";

export const placeLooks = cva(
  "rounded-full border px-2 text-[11px] leading-[17px] font-semibold whitespace-nowrap",
  {
    variants: {
      active: { true: "border-river bg-river text-river-ink", false: "border-hairline bg-raised text-quiet" },
      busy: { true: "", false: "" },
    },
    compoundVariants: [{ active: false, busy: true, class: "border-marigold bg-sand text-ink" }],
  },
);
