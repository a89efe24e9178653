import { X } from "lucide-react";
import { Dialog as Primitive } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  about?: string;
  children: ReactNode;
  footer?: ReactNode;
  /** For long lists. */
  wide?: boolean;
}

export function Dialog({ open, onOpenChange, title, about, children, footer, wide = false }: Props) {
  return (
    <Primitive.Root open={open} onOpenChange={onOpenChange}>
      <Primitive.Portal>
        <Primitive.Overlay className="fixed inset-0 z-40 bg-deep/50" />
        <Primitive.Content
          aria-describedby={undefined}
          className={`fixed top-1/2 left-1/2 z-50 flex max-h-[84dvh] ${wide ? "h-[84dvh] w-[min(60rem,calc(100vw-2rem))]" : "w-[min(40rem,calc(100vw-2rem))]"} -translate-x-1/2 -translate-y-1/2 flex-col rounded-card border border-hairline bg-raised shadow-2xl`}
        >
          <header className="flex items-start gap-4 border-b border-hairline px-5 py-4">
            <div className="min-w-0 flex-1">
              <Primitive.Title className="font-heading text-lg font-semibold">{title}</Primitive.Title>
              {about && <p className="mt-0.5 text-quiet">{about}</p>}
            </div>
            <Primitive.Close aria-label="Close" className="-mr-1 rounded p-1 text-quiet hover:text-ink">
              <X size={18} />
            </Primitive.Close>
          </header>
          <div className="min-h-0 flex-1 overflow-y-auto px-5 py-4">{children}</div>
          {footer && (
            <footer className="flex justify-end gap-3 border-t border-hairline px-5 py-3">{footer}</footer>
          )}
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
