import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { under } from "./base";
import { answer, client, type Schemas } from "./client";

export type CoverWanted = Schemas["CoverWanted"];

const LOOKING_MS = 900;
const artworkOf = (id: number) => ["shelf", "artwork", id] as const;

const NOTHING_CHOSEN = {
  at_s: null,
  picture: null,
  own: false,
  shape: "16:9",
  across: 0.5,
  down: 0.5,
} as const satisfies Schemas["Chosen"];

/** What a title's files are known by, and what could be taken. */
export function useArtwork(id: number) {
  const cache = useQueryClient();
  return useQuery({
    queryKey: artworkOf(id),
    queryFn: async () => {
      const found = await answer(
        client.GET("/api/shelf/titles/{title_id}/artwork", { params: { path: { title_id: id } } }),
      );
      // asked for before what is being chosen was stored: it says what was chosen before
      const chosen = cache.isMutating({ mutationKey: artworkOf(id) })
        ? cache.getQueryData<Schemas["Artwork"]>(artworkOf(id))
        : undefined;
      return chosen ? { ...found, cover: chosen.cover } : found;
    },
    refetchInterval: (query) => (query.state.data?.looking ? LOOKING_MS : false),
  });
}

export function useSetArtwork(id: number) {
  const cache = useQueryClient();
  return useMutation({
    scope: { id: `artwork ${id}` },
    mutationKey: artworkOf(id),
    mutationFn: (body: Schemas["ArtworkChange"]) =>
      answer(
        client.PUT("/api/shelf/titles/{title_id}/artwork", { params: { path: { title_id: id } }, body }),
      ),
    // what is chosen next builds on it
    onMutate: ({ cover }) => {
      cache.setQueryData<Schemas["Artwork"]>(
        artworkOf(id),
        (old) => old && { ...old, cover: cover && { ...NOTHING_CHOSEN, ...cover } },
      );
    },
    onError: () => cache.invalidateQueries({ queryKey: artworkOf(id) }),
    onSuccess: async (anew, { alike }) => {
      await cache.cancelQueries({ queryKey: artworkOf(id) });
      if (cache.isMutating({ mutationKey: artworkOf(id) }) < 2) cache.setQueryData(artworkOf(id), anew);
      return Promise.all([
        ...(alike ?? []).map((other) => cache.invalidateQueries({ queryKey: artworkOf(other) })),
        cache.invalidateQueries({ queryKey: ["bench"] }),
      ]);
    },
  });
}

/** Brings a picture; the answer is its name. */
export const useKeepPicture = () =>
  useMutation({
    mutationFn: (data: string) => answer(client.POST("/api/shelf/pictures", { body: { data } })),
  });

/** Where the picture is seen as it would go into a file. */
export function coverUrl(id: number, wanted: CoverWanted): string {
  const said = Object.entries(wanted).filter(([, value]) => value !== null && value !== undefined);
  return under(
    `/api/shelf/titles/${id}/cover.jpg?${new URLSearchParams(said.map(([k, v]) => [k, String(v)]))}`,
  );
}

/** Where the picture inside a file that was made is seen; the size tells one state of the file from another. */
export const artworkInside = (output: number, size: number) =>
  under(`/api/outbox/${output}/artwork.jpg?of=${size}`);
