import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { useChange } from "./queries";

const handovers = ["outbox", "handovers"] as const;
const COPYING_MS = 700;
/** A stick tells nobody that it was plugged in. */
const LOOKING_MS = 3000;

const everyWhile = (data: Schemas["Handovers"] | undefined) =>
  data?.devices.some(({ copying, waiting }) => copying !== null || waiting > 0) ? COPYING_MS : LOOKING_MS;

/** How far all devices are, with the files of the `chosen` one; those left out give their room to others. */
export const useHandovers = (chosen: number | undefined, leftOut: readonly number[] = []) =>
  useQuery({
    queryKey: [...handovers, "device", chosen ?? null, leftOut.join(",")],
    queryFn: () =>
      answer(client.GET("/api/outbox/handovers", { params: { query: { chosen, left_out: [...leftOut] } } })),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => everyWhile(query.state.data),
  });

/** How far one output is on its way onto each device. */
export const useHandoversOf = (output: number) =>
  useQuery({
    queryKey: [...handovers, "output", output],
    queryFn: () => answer(client.GET("/api/outbox/handovers", { params: { query: { output } } })),
    refetchInterval: (query) => everyWhile(query.state.data),
  });

export const useHandOver = () =>
  useChange(
    (body: Schemas["NewHandovers"]) => answer(client.POST("/api/outbox/handovers", { body })),
    [handovers],
  );

export const useStopHandover = () =>
  useChange(
    (id: number) =>
      answer(client.DELETE("/api/outbox/handovers/{handover_id}", { params: { path: { handover_id: id } } })),
    [handovers],
  );

/** Says where a device's files go; nowhere with `null`. */
export const useSetStorage = (deviceId: number) =>
  useChange(
    (body: Schemas["NewStorage"] | null) => {
      const params = { path: { device_id: deviceId } };
      return body
        ? answer(client.PUT("/api/outbox/storages/{device_id}", { params, body }))
        : answer(client.DELETE("/api/outbox/storages/{device_id}", { params }));
    },
    [handovers],
  );

/**
 * Says in which order a device's files are wished for, by outputs, or by their names again with none. The list shows it
 * at once.
 */
export function useSetWishes(deviceId: number) {
  const cache = useQueryClient();
  const params = { path: { device_id: deviceId } };
  return useMutation({
    scope: { id: `wishes ${deviceId}` },
    mutationFn: (outputs: number[]) =>
      answer(client.PUT("/api/outbox/storages/{device_id}/wishes", { params, body: { outputs } })),
    onMutate: async (outputs) => {
      await cache.cancelQueries({ queryKey: handovers });
      cache.setQueriesData<Schemas["Handovers"]>(
        { queryKey: handovers },
        (old) =>
          old && {
            ...old,
            devices: old.devices.map((one) => (one.device_id === deviceId ? inOrder(one, outputs) : one)),
          },
      );
    },
    onSettled: () => cache.invalidateQueries({ queryKey: handovers }),
  });
}

function inOrder(device: Schemas["DeviceFiles"], outputs: readonly number[]): Schemas["DeviceFiles"] {
  if (!outputs.length) return device;
  const at = (file: Schemas["FileForDevice"]) => outputs.indexOf(file.output_id);
  return { ...device, files: [...device.files].sort((one, other) => at(one) - at(other)) };
}

export const useEject = () =>
  useChange(
    (volumeId: string) =>
      answer(client.POST("/api/outbox/volumes/ejected", { body: { volume_id: volumeId } })),
    [handovers],
  );

/** Plugs a stand-in in, or pulls it out without a word before it. */
export const usePlug = () =>
  useChange(
    ({ label, verb }: { label: string; verb: "in" | "out" }) =>
      verb === "in"
        ? answer(client.PUT("/api/outbox/volumes/plugged", { body: { label } }))
        : answer(client.DELETE("/api/outbox/volumes/plugged", { params: { query: { label } } })),
    [handovers],
  );

/** Lets TVs of the home network find a device’s files, or takes them back. */
export const useShowOnNetwork = (deviceId: number) =>
  useChange(
    (shown: boolean) => {
      const params = { path: { device_id: deviceId } };
      return shown
        ? answer(client.PUT("/api/outbox/network/{device_id}", { params }))
        : answer(client.DELETE("/api/outbox/network/{device_id}", { params }));
    },
    [handovers],
  );
