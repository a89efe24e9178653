import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { keys, useChange } from "./queries";

/** What somebody says of a device: a sentence, or answers; `null` for “don’t know”. */
export interface Answers {
  typed: string;
  kind?: Schemas["DeviceKind"];
  year?: number;
  said: Readonly<Record<string, boolean | null>>;
}

export type QuestionId = Schemas["QuestionId"];

/** A question by the name that the server gave it: the API says these as text, and takes an enumeration. */
// eslint-disable-next-line no-restricted-syntax -- see above
export const asQuestion = (name: string) => name as QuestionId;

/** The questions that were answered so. */
export const answeredBy = (said: Answers["said"], value: boolean | null) =>
  Object.keys(said)
    .filter((name) => said[name] === value)
    .map(asQuestion);

export const useHousehold = () =>
  useQuery({ queryKey: keys.household, queryFn: () => answer(client.GET("/api/household")) });

export const useAddDevice = () =>
  useChange(
    (body: Schemas["NewDevice"]) => answer(client.POST("/api/household/devices", { body })),
    [keys.household, ["bench"]],
  );

export const useAddOwnDevice = () =>
  useChange(
    (body: Schemas["OwnDevice"]) => answer(client.POST("/api/household/own-devices", { body })),
    [keys.household, ["bench"]],
  );

/** The kinds of device that fit; asked as soon as there is anything to go by. */
export const useFinding = ({ typed, kind, year, said }: Answers) =>
  useQuery({
    queryKey: ["household", "finding", typed, kind, year, said],
    queryFn: () =>
      answer(
        client.GET("/api/household/finding", {
          params: {
            query: {
              typed,
              kind,
              year,
              yes: answeredBy(said, true),
              no: answeredBy(said, false),
              unknown: answeredBy(said, null),
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
    enabled: Boolean(typed.trim() || kind),
  });

const DEVICE = "/api/household/devices/{device_id}" as const;
const of = (id: number) => ({ params: { path: { device_id: id } } });
const CHANGED = [["household"], ["bench"]] as const;

export const useAnswer = (id: number) =>
  useChange(
    (body: Schemas["Answer"]) => answer(client.POST(`${DEVICE}/answers`, { ...of(id), body })),
    CHANGED,
  );

export const useTellTrial = (id: number) =>
  useChange(
    (body: Schemas["Trial"]) => answer(client.POST(`${DEVICE}/trials`, { ...of(id), body })),
    CHANGED,
  );

/** What a device’s browser played goes into a device that is there. */
export const useTakeAsked = () =>
  useChange(
    ({ id, document }: { id: number; document: string }) =>
      answer(client.POST(`${DEVICE}/asked`, { ...of(id), body: { document } })),
    CHANGED,
  );

export const useStartOver = (id: number) =>
  useChange(() => answer(client.POST(`${DEVICE}/kind`, of(id))), CHANGED);

export const useTakeBack = (id: number) =>
  useChange(() => answer(client.DELETE(`${DEVICE}/kind`, of(id))), CHANGED);

export const useMarkSeen = (id: number) =>
  useChange(() => answer(client.DELETE(`${DEVICE}/news`, of(id))), CHANGED);

type Wishes = Partial<Schemas["HouseholdChange"]>;

export const useChangeHousehold = () =>
  useChange((body: Wishes) => answer(client.PATCH("/api/household", { body })), [keys.household, ["bench"]]);

export const useAddMember = () =>
  useChange(
    (name: string) => answer(client.POST("/api/household/members", { body: { name } })),
    [keys.household],
  );

export const useChangeMember = (id: number) =>
  useChange(
    (body: Schemas["MemberChange"]) =>
      answer(
        client.PATCH("/api/household/members/{member_id}", { params: { path: { member_id: id } }, body }),
      ),
    [keys.household, ["bench"]],
  );

export const useRemoveMember = (id: number) =>
  useChange(
    () =>
      answer(client.DELETE("/api/household/members/{member_id}", { params: { path: { member_id: id } } })),
    [keys.household, ["bench"]],
  );

export const useChangeDevice = (id: number) =>
  useChange(
    (body: Schemas["DeviceChange"]) =>
      answer(
        client.PATCH("/api/household/devices/{device_id}", { params: { path: { device_id: id } }, body }),
      ),
    [keys.household, ["bench"]],
  );

export const useReplaceProfile = (id: number) =>
  useChange(
    (document: string) =>
      answer(
        client.PUT("/api/household/devices/{device_id}", {
          params: { path: { device_id: id } },
          body: { document },
        }),
      ),
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
    queryFn: () =>
      answer(
        client.GET("/api/household/profiles/{profile_id}", { params: { path: { profile_id: id ?? "" } } }),
      ),
    enabled: id !== null,
  });

export const usePairing = () =>
  useQuery({ queryKey: keys.pairing, queryFn: () => answer(client.GET("/api/household/pairing")) });

export const useOpenPairing = () =>
  useChange(
    (open: boolean) =>
      open ? answer(client.POST("/api/household/pairing")) : answer(client.DELETE("/api/household/pairing")),
    [keys.pairing],
  );
