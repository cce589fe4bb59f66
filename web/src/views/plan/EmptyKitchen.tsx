import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { Oven } from "../sign-in/Oven";

/** A kitchen with nothing in it offers the first step. */
export function EmptyKitchen() {
  return (
    <main className="grid h-full content-center justify-items-center gap-5 p-8 text-center">
      <Oven />
      <h1 className="font-display text-3xl font-bold">Nothing in this kitchen yet</h1>
      <p className="max-w-md text-base text-ash">
        Begin with an ordinary one: an electric oven to 250 °C, an 8 mm steel, a 15 mm stone and a thin tray.
        You can plan with it at once. Or{" "}
        <Link className="text-air underline underline-offset-2" to="/kitchen">
          put in what you own
        </Link>
        .
      </p>
      <OrdinaryKitchen />
    </main>
  );
}

/** Fills an empty kitchen with ordinary things, all of which can be changed. */
export function OrdinaryKitchen() {
  const queries = useQueryClient();
  const fill = useMutation({
    mutationFn: () => answer(client.POST("/api/kitchen/starter")),
    onSuccess: async (kitchen) => {
      queries.setQueryData(["kitchen"], kitchen);
      await queries.invalidateQueries({ queryKey: ["match"] });
    },
  });
  return (
    <>
      <button
        type="button"
        className="press justify-self-center text-base"
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
    </>
  );
}
