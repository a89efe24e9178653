import type { ReactNode } from "react";

interface Props {
  title: string;
  about: string;
  children: ReactNode;
}

/** One question of the set-up: what is asked at the left, the answers at the right. */
export function Section({ title, about, children }: Props) {
  return (
    <section
      aria-label={title}
      className="grid grid-cols-[minmax(200px,280px)_minmax(0,1fr)] gap-x-8 gap-y-3 border-t border-hairline px-6 py-6 max-md:grid-cols-1 max-md:px-3"
    >
      <div>
        <h2 className="text-lg leading-tight">{title}</h2>
        <p className="mt-1.5 text-quiet">{about}</p>
      </div>
      <div className="min-w-0">{children}</div>
    </section>
  );
}
