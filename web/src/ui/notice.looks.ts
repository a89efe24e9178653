import { cva } from "class-variance-authority";

export const noticeLooks = cva("rounded-lg px-3.5 py-2.5", {
  variants: {
    look: {
      reason: "bg-sand text-ink",
      fault: "border border-madder/50 bg-raised text-madder",
      plain: "border border-hairline bg-raised text-quiet",
    },
  },
  defaultVariants: { look: "plain" },
});
