import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../api/client";

/** Fills an empty kitchen with ordinary things, all of which can be changed. */
export function OrdinaryKitchen() {
  const queries = useQueryClient();
  const fill = useMutation({
    mutationFn: () => answer(client.POST("/api/kitchen/starter")),
    onSuccess: async (kitchen) => {
      queries.setQueryData(["kitchen"], kitchen);
      await queries.invalidateQueries({ queryKey: ["kitchen", "rigs"] });
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
