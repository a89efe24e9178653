import { useState } from "react";

import type { Schemas } from "../../../api/client";
import { useWish } from "../../../api/handovers";
import { placeFor, putBefore } from "../../../domain/order";

interface Over {
  id: number;
  after: boolean;
}

/** The order in which a device's files are wished for: what is dragged where, and what keys make of it. */
export function useWishes({ device_id, files }: Schemas["DeviceFiles"]) {
  const wish = useWish(device_id);
  const [dragged, setDragged] = useState<number | null>(null);
  const [over, setOver] = useState<Over | null>(null);
  const rows = files.map(({ output_id: id }) => ({ id }));
  const put = (id: number, before: number | null) =>
    wish.mutate(putBefore(rows, new Set([id]), before).map((row) => row.id));
  return {
    error: wish.error,
    forget: () => wish.mutate([]),
    markOf: (id: number) => (over?.id === id ? (over.after ? "below" : "above") : "none"),
    drag: (id: number | null) => {
      setDragged(id);
      if (id === null) setOver(null);
    },
    aim: (id: number, after: boolean) => {
      if (dragged !== null && (over?.id !== id || over.after !== after)) setOver({ id, after });
    },
    drop: () => {
      setOver(null);
      if (dragged === null || !over) return;
      const index = rows.findIndex(({ id }) => id === over.id) + (over.after ? 1 : 0);
      put(dragged, rows[index]?.id ?? null);
    },
    key: (id: number, key: string) => {
      const before = placeFor(key, rows, new Set([id]));
      if (before === undefined) return false;
      put(id, before);
      return true;
    },
  } as const;
}

export type Wishes = ReturnType<typeof useWishes>;
