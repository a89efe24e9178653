import type { ReactNode } from "react";

interface Props {
  opened: { address: string; code: string; qr: string; qr_size: number };
  children: ReactNode;
}

/** How a device of the home network gets to a page that was opened for it: to be scanned, or typed. */
export function CodeCard({ opened, children }: Props) {
  return (
    <div className="flex flex-wrap items-center gap-6">
      <svg
        viewBox={`-4 -4 ${opened.qr_size + 8} ${opened.qr_size + 8}`}
        role="img"
        aria-label="The address with its code, as a QR code"
        className="size-48 shrink-0 rounded-lg bg-print-light"
        shapeRendering="crispEdges"
      >
        <path d={opened.qr} className="fill-print-dark" />
      </svg>
      <div className="min-w-56 flex-1">
        <p className="text-quiet">Scan this with the device, or type into its browser:</p>
        <p className="my-1 text-[17px] font-semibold break-all">{opened.address}</p>
        <p className="text-quiet">and the code</p>
        <p className="my-1 font-heading text-[26px] font-semibold tracking-[0.15em]">{opened.code}</p>
        {children}
      </div>
    </div>
  );
}
