import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { server } from "../../api/queries";
import { useUndo } from "../../app/Undo";
import { LARGEST_BYTES, type Photo, type Said } from "./photo";

function send(entryId: number, file: File, shows: Photo["shows"]) {
  return answer(
    client.POST("/api/logbook/{entry_id}/photos/file", {
      params: { path: { entry_id: entryId } },
      // The schema has a file as text; it is sent as what it is.
      body: { shows, white: "plate", picture: file as unknown as string },
      bodySerializer: ({ picture, ...said }) => {
        const form = new FormData();
        for (const [name, value] of Object.entries(said)) form.append(name, value);
        form.append("picture", picture as unknown as File);
        return form;
      },
    }),
  );
}

const seenAs = (photo: Photo) => ({ path: { photo_id: photo.id }, query: { version: photo.version } });

/** The photos of an entry: each is measured by the server when it comes, and again when something is said of it. */
export function usePhotos(entryId: number) {
  const queries = useQueryClient();
  const offer = useUndo();
  const asked = server.photos(entryId);
  const photos = useQuery(asked);
  const [openId, setOpenId] = useState<number | null>(null);
  const [wrong, setWrong] = useState("");
  const put = (photo: NonNullable<typeof photos.data>[number]) => {
    queries.setQueryData(asked.queryKey, (was) =>
      was?.some((one) => one.id === photo.id)
        ? was.map((one) => (one.id === photo.id ? photo : one))
        : [...(was ?? []), photo],
    );
  };
  const look = () => queries.invalidateQueries({ queryKey: asked.queryKey });
  const adding = useMutation({
    mutationFn: ({ file, shows }: { file: File; shows: Photo["shows"] }) => send(entryId, file, shows),
    onSuccess: (photo) => {
      put(photo);
      setOpenId(photo.id);
    },
  });
  const saying = useMutation({
    mutationFn: ({ photo, said }: { photo: Photo; said: Said }) =>
      answer(client.PUT("/api/photos/{photo_id}", { params: seenAs(photo), body: said })),
    onSuccess: put,
    // What another window said of it is shown, and can be changed from there.
    onError: () => void look(),
  });
  const removing = useMutation({
    mutationFn: (photo: Photo) => answer(client.DELETE("/api/photos/{photo_id}", { params: seenAs(photo) })),
    onSettled: () => void look(),
    onSuccess: (_, photo) => {
      const back = async () => {
        await answer(
          client.POST("/api/photos/{photo_id}/restore", { params: { path: { photo_id: photo.id } } }),
        );
        await look();
      };
      offer({ text: "The photo is taken out.", undo: () => void back() });
    },
  });
  // The client forgets that a place is two numbers.
  const all = (photos.data ?? []) as Photo[];
  return {
    all,
    open: all.find((one) => one.id === openId) ?? all[0] ?? null,
    show: (photo: Photo) => {
      saying.reset();
      setOpenId(photo.id);
    },
    add: (file: File, shows: Photo["shows"]) => {
      adding.reset();
      const large = file.size > LARGEST_BYTES;
      setWrong(large ? "This picture is larger than 12 MB; send a smaller size of it." : "");
      if (!large) adding.mutate({ file, shows });
    },
    say: (photo: Photo, said: Said) => {
      saying.mutate({ photo, said });
    },
    remove: (photo: Photo) => {
      removing.mutate(photo);
    },
    measuring: adding.isPending || saying.isPending,
    problem:
      wrong ||
      (adding.error ?? saying.error ?? removing.error ?? (photos.data ? null : photos.error))?.message,
  };
}
