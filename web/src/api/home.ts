import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answer, client, type Schemas } from "./client";
import { keys, useChange } from "./queries";

const home = ["home"] as const;
const session = ["session"] as const;
/** Under the Shelf's key: a folder that was gone through is told with it. */
const filmFolders = ["shelf", "film-folders"] as const;

export const useHome = () => useQuery({ queryKey: home, queryFn: () => answer(client.GET("/api/home")) });

export const useChangeHome = () =>
  useChange((body: Schemas["HomeChange"]) => answer(client.PATCH("/api/home", { body })), [home]);

/** Under the home's key: what was tried or measured is told with it. */
const hardware = ["home", "hardware"] as const;

export const useHardware = () =>
  useQuery({ queryKey: hardware, queryFn: () => answer(client.GET("/api/home/hardware")) });

export const useChangeHardware = () =>
  useChange(
    (body: Schemas["HardwareChange"]) => answer(client.PATCH("/api/home/hardware", { body })),
    [hardware],
  );

export const useFilmFolders = () =>
  useQuery({ queryKey: filmFolders, queryFn: () => answer(client.GET("/api/shelf/film-folders")) });

export const useAddFilmFolder = () =>
  useChange(
    (path: string) => answer(client.POST("/api/shelf/film-folders", { body: { path } })),
    [filmFolders, keys.sources],
  );

export const useForgetFilmFolder = () =>
  useChange(
    (id: number) =>
      answer(client.DELETE("/api/shelf/film-folders/{folder_id}", { params: { path: { folder_id: id } } })),
    [filmFolders],
  );

export const useSession = () =>
  useQuery({ queryKey: session, queryFn: () => answer(client.GET("/api/session")), staleTime: Infinity });

export function useSignIn() {
  const cache = useQueryClient();
  return useChange(async (passphrase: string) => {
    await answer(client.POST("/api/session", { body: { passphrase } }));
    await cache.invalidateQueries();
  }, []);
}

export function useSignOut() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: () => answer(client.DELETE("/api/session")),
    onSuccess: () => {
      cache.clear();
      location.reload();
    },
  });
}

export function useSignOutOthers() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: () => answer(client.DELETE("/api/session/others")),
    onSettled: () => cache.invalidateQueries({ queryKey: home }),
  });
}
