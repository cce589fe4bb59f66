import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { Oven } from "../sign-in/Oven";

/** A kitchen with nothing in it offers the first step. */
export function EmptyKitchen() {
  const queries = useQueryClient();
  const fill = useMutation({
    mutationFn: () => answer(client.POST("/api/kitchen/starter")),
    onSuccess: (kitchen) => {
      queries.setQueryData(["kitchen"], kitchen);
    },
  });
  return (
    <main className="grid h-full content-center justify-items-center gap-5 p-8 text-center">
      <Oven />
      <h1 className="font-display text-3xl font-bold">Nothing in this kitchen yet</h1>
      <p className="max-w-md text-base text-ash">
        Begin with an ordinary one: an electric oven to 250 °C, an 8 mm steel, a 15 mm stone and a thin tray.
        You can plan with it at once.
      </p>
      <button
        type="button"
        className="press text-base"
        disabled={fill.isPending}
        onClick={() => {
          fill.mutate();
        }}
      >
        Put in an ordinary kitchen
      </button>
      {fill.error ? (
        <p role="alert" className="text-brick">
          {fill.error.message}
        </p>
      ) : null}
    </main>
  );
}
