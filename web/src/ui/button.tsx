import type { VariantProps } from "class-variance-authority";
import { Slot } from "radix-ui";
import type { ComponentProps } from "react";

import { buttonLooks } from "./button.looks";

type Props = ComponentProps<"button"> & VariantProps<typeof buttonLooks> & { asChild?: boolean };

export function Button({ look, size, asChild, className, ...rest }: Props) {
  const Element = asChild ? Slot.Root : "button";
  return (
    <Element
      type={asChild ? undefined : "button"}
      className={buttonLooks({ look, size, className })}
      {...rest}
    />
  );
}
