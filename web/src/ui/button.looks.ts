import { cva } from "class-variance-authority";

export const buttonLooks = cva(
  "inline-flex shrink-0 items-center justify-center gap-2 rounded-lg font-medium whitespace-nowrap transition-colors disabled:cursor-default disabled:opacity-50",
  {
    variants: {
      look: {
        primary: "bg-river text-river-ink hover:brightness-110",
        accent: "bg-marigold text-marigold-ink hover:brightness-105",
        plain: "border border-hairline bg-raised text-ink hover:border-quiet",
        quiet: "text-quiet hover:text-ink",
        link: "font-semibold text-river hover:underline",
        onDeep: "text-deep-quiet hover:text-deep-ink",
      },
      size: {
        normal: "h-9 px-4",
        small: "h-7 px-2.5 text-[13px]",
        text: "h-auto px-0",
        icon: "size-8",
      },
    },
    defaultVariants: { look: "plain", size: "normal" },
  },
);
