import { server } from "../api/queries";
import { Button } from "../ui/Button";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../api/client";

/** Fills an empty kitchen with ordinary things, all of which can be changed. */
export function OrdinaryKitchen() {
  const queries = useQueryClient();
  const fill = useMutation({
    mutationFn: () => answer(client.POST("/api/kitchen/starter")),
    onSuccess: async (kitchen) => {
      queries.setQueryData(server.kitchen.queryKey, kitchen);
      await queries.invalidateQueries({ queryKey: server.rigs.queryKey });
      await queries.invalidateQueries({ queryKey: server.match.queryKey });
    },
  });
  return (
    <>
      <Button
        look="press"
        className="justify-self-center text-base"
        disabled={fill.isPending}
        onClick={() => {
          fill.mutate();
        }}
      >
        Put in an ordinary kitchen
      </Button>
      {fill.error ? (
        <p role="alert" className="text-brick">
          {fill.error.message}
        </p>
      ) : null}
    </>
  );
}
