import { Settings2 } from "lucide-react";
import { useState } from "react";
import { Link, NavLink, Outlet } from "react-router";

import { useLive } from "../api/live";
import { useOpenedWhenDone } from "../parts/opening";
import { useToldWhenDone } from "../parts/telling";
import { Button } from "../ui/button";
import { Mark } from "../ui/mark";
import { Search } from "./search";
import { placeLooks } from "./shell.looks";
import { Shortcuts, useShortcuts } from "./shortcuts";
import { ThemeSwitch } from "./theme-switch";

function useCountTexts() {
  const { counts } = useLive();
  if (!counts) return { shelf: "…", bench: "…", worklist: "…", outbox: "…", busy: false };
  const percent = Math.round(counts.fraction * 100);
  return {
    shelf: `${counts.sources} ${counts.sources === 1 ? "source" : "sources"}`,
    bench: `${counts.picked} picked`,
    worklist: counts.to_do ? `${counts.to_do} to go · ${percent} %` : "nothing to do",
    outbox: `${counts.outputs} ready`,
    busy: counts.to_do > 0,
  };
}

export function Shell() {
  const [help, setHelp] = useState(false);
  const [search, setSearch] = useState(false);
  const { connected } = useLive();
  const texts = useCountTexts();
  useToldWhenDone();
  useOpenedWhenDone();
  useShortcuts({ "?": () => setHelp(true), "/": () => setSearch(true) });
  const places = [
    { to: "/shelf", name: "Shelf", count: texts.shelf, busy: false },
    { to: "/bench", name: "Bench", count: texts.bench, busy: false },
    { to: "/worklist", name: "Worklist", count: texts.worklist, busy: texts.busy },
    { to: "/outbox", name: "Outbox", count: texts.outbox, busy: false },
  ];
  return (
    <div className="flex min-h-dvh flex-col">
      <header className="sticky top-0 z-30 flex h-[60px] shrink-0 items-center gap-4 border-b border-hairline bg-raised px-6 max-md:px-3 max-sm:h-auto max-sm:flex-wrap max-sm:gap-y-1 max-sm:py-2">
        <Link
          to="/shelf"
          className="flex items-center gap-2.5 font-heading text-[22px] font-semibold"
          aria-label="Rheon"
        >
          <Mark className="w-6" />
          <span className="max-lg:sr-only">rheon</span>
        </Link>
        <nav
          aria-label="Places"
          className="relative ml-8 flex max-lg:ml-0 max-sm:order-last max-sm:w-full max-sm:justify-between"
        >
          <span className="absolute inset-x-0 bottom-[9px] h-px bg-hairline" aria-hidden />
          {places.map((place) => (
            <NavLink
              key={place.to}
              to={place.to}
              className="group relative flex w-[132px] flex-col items-center max-lg:w-[104px] max-sm:w-auto"
            >
              {({ isActive }) => (
                <>
                  <span className={isActive ? "font-semibold" : "text-quiet group-hover:text-ink"}>
                    {place.name}
                  </span>
                  <span className={placeLooks({ active: isActive, busy: place.busy })}>{place.count}</span>
                </>
              )}
            </NavLink>
          ))}
        </nav>
        <div className="ml-auto flex items-center gap-3">
          <NavLink
            to="/household"
            className={({ isActive }) => (isActive ? "font-semibold" : "text-quiet hover:text-ink")}
          >
            Household
          </NavLink>
          <Search open={search} onOpenChange={setSearch} />
          <Button asChild look="quiet" size="icon" className="-mr-2">
            <NavLink to="/settings" aria-label="Settings" title="Settings">
              <Settings2 size={17} />
            </NavLink>
          </Button>
          <ThemeSwitch />
        </div>
      </header>
      {!connected && (
        <div role="status" className="bg-sand px-6 py-1.5 text-center">
          Rheon’s server does not answer; trying again. What you see may be out of date.
        </div>
      )}
      <main className="flex min-h-0 flex-1 flex-col">
        <Outlet />
      </main>
      <Shortcuts open={help} onOpenChange={setHelp} />
    </div>
  );
}
