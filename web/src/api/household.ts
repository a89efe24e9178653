import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { keys, useChange } from "./queries";

export interface Answers {
  kind: Schemas["DeviceKind"];
  year?: number;
  screen_width?: number;
  screen_height?: number;
  plays_uhd?: boolean;
}

export const useHousehold = () =>
  useQuery({ queryKey: keys.household, queryFn: () => answer(client.GET("/api/household")) });

export const useAddDevice = () =>
  useChange(
    (body: Schemas["NewDeviceRequest"]) => answer(client.POST("/api/household/devices", { body })),
    [keys.household, ["bench"]],
  );

export const useAddOwnDevice = () =>
  useChange(
    (body: Schemas["OwnDeviceRequest"]) => answer(client.POST("/api/household/own-devices", { body })),
    [keys.household, ["bench"]],
  );

export const useNearest = (answers: Answers) =>
  useQuery({
    queryKey: ["household", "nearest", answers],
    queryFn: () => answer(client.GET("/api/household/nearest", { params: { query: answers } })),
    placeholderData: keepPreviousData,
  });

export const useRemoveDevice = () =>
  useChange(
    (id: number) => answer(client.DELETE("/api/household/devices/{device_id}", { params: { path: { device_id: id } }, keepalive: true })),
    [keys.household, ["bench"]],
  );

type Wishes = Partial<Schemas["PatchedHouseholdChangeRequest"]>;

export const useChangeHousehold = () =>
  useChange((body: Wishes) => answer(client.PATCH("/api/household", { body })), [keys.household, ["bench"]]);

export const useAddMember = () =>
  useChange((name: string) => answer(client.POST("/api/household/members", { body: { name } })), [keys.household]);

export const useChangeMember = (id: number) =>
  useChange(
    (body: Schemas["PatchedMemberChangeRequest"]) => answer(client.PATCH("/api/household/members/{member_id}", { params: { path: { member_id: id } }, body })),
    [keys.household, ["bench"]],
  );

export const useRemoveMember = (id: number) =>
  useChange(() => answer(client.DELETE("/api/household/members/{member_id}", { params: { path: { member_id: id } } })), [keys.household, ["bench"]]);

export const useChangeDevice = (id: number) =>
  useChange(
    (body: Schemas["PatchedDeviceChangeRequest"]) => answer(client.PATCH("/api/household/devices/{device_id}", { params: { path: { device_id: id } }, body })),
    [keys.household, ["bench"]],
  );

export const useReplaceProfile = (id: number) =>
  useChange(
    (document: string) => answer(client.PUT("/api/household/devices/{device_id}", { params: { path: { device_id: id } }, body: { document } })),
    [keys.household, ["bench"]],
  );

/** What is wrong and what is odd about a profile that is being written. */
export const useProfileCheck = (document: string) =>
  useQuery({
    queryKey: ["household", "check", document],
    queryFn: () => answer(client.POST("/api/household/profile-check", { body: { document } })),
    placeholderData: keepPreviousData,
    enabled: document !== "",
    gcTime: 0,
  });

export const useCatalogueProfile = (id: string | null) =>
  useQuery({
    queryKey: ["household", "profile", id],
    queryFn: () => answer(client.GET("/api/household/profiles/{profile_id}", { params: { path: { profile_id: id ?? "" } } })),
    enabled: id !== null,
  });

export const useAsking = () => useQuery({ queryKey: keys.asking, queryFn: () => answer(client.GET("/api/household/asking")) });

export const useDoor = () =>
  useChange(
    (open: boolean) => (open ? answer(client.POST("/api/household/asking")) : answer(client.DELETE("/api/household/asking"))),
    [keys.asking],
  );
