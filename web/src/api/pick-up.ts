import { useQuery } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { useChange } from "./queries";

const pickUp = ["outbox", "pick-up"] as const;

/** The page on which devices of the home network pick files up. */
export const usePickUp = () =>
  useQuery({ queryKey: pickUp, queryFn: () => answer(client.GET("/api/outbox/pick-up")) });

/** Opens it for some files; shuts it with `null`. */
export const useOpenPickUp = (onDone?: () => void) =>
  useChange(
    (body: Schemas["NewPickUp"] | null) =>
      body
        ? answer(client.PUT("/api/outbox/pick-up", { body }))
        : answer(client.DELETE("/api/outbox/pick-up")),
    [pickUp],
    onDone,
  );
