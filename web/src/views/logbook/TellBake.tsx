import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { PickBake, usePickedBake } from "../../app/PickBake";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { MomentField } from "../../ui/MomentField";
import { HERE, nowIn } from "../../ui/time";
import { NOTHING_SEEN } from "./book";
import { secondsOf } from "./minutes";

/** A bake that nobody followed: what on what, when, and for how long. What came of it is said on its page. */
export function TellBake({ done }: { done: () => void }) {
  const picked = usePickedBake();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [minutes, setMinutes] = useState("");
  const [at, setAt] = useState(() => nowIn(HERE));
  const pulledS = secondsOf(minutes);
  const tell = useMutation({
    mutationFn: (told: NonNullable<typeof picked>) =>
      answer(
        client.POST("/api/logbook", {
          body: {
            sentence: told.sentence(),
            thickness: told.thickness,
            baked_at: new Date(at).toISOString(),
            pulled_min: (pulledS ?? 0) / 60,
            came: NOTHING_SEEN,
          },
        }),
      ),
    onSuccess: (entry) => {
      void queries.invalidateQueries({ queryKey: ["logbook"] });
      done();
      void navigate(`/logbook/${String(entry.id)}`);
    },
  });
  if (!picked) return null;
  return (
    <form
      className="leaf mt-3 grid gap-2 p-3"
      aria-label="Tell a bake"
      onSubmit={(e) => {
        e.preventDefault();
        tell.mutate(picked);
      }}
    >
      <PickBake picked={picked} />
      <div className="grid gap-2 md:grid-cols-2">
        <Field
          label="Baked for"
          hint="minutes, as 7:30 or 7.5"
          inputMode="decimal"
          value={minutes}
          error={minutes && pulledS === null ? "Say it as 7:30 or 7.5 minutes." : undefined}
          onChange={(e) => {
            setMinutes(e.target.value);
          }}
        />
        <div className="grid content-start gap-1">
          <span className="font-semibold">When</span>
          <MomentField big label="When" value={at} lean="past" onChange={setAt} />
        </div>
      </div>
      {tell.isError ? (
        <p role="alert" className="text-brick">
          {tell.error.message}
        </p>
      ) : null}
      <Button type="submit" look="press" className="min-h-12" disabled={tell.isPending || !pulledS || !at}>
        {tell.isPending ? "Being worked out" : "Put it into the book"}
      </Button>
    </form>
  );
}
