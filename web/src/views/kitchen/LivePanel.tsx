import { Button } from "../../ui/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { hearthKind, type Kinds } from "../../ui/kinds";
import { LiveTrace } from "./LiveTrace";
import type { Instrument, Kitchen } from "./things";
import { useLive } from "./useLive";

/** A wireless thermometer: what it says now, and the tokens its device may write with. */
export function LivePanel({
  instrument,
  kitchen,
  kinds,
}: {
  instrument: Instrument;
  kitchen: Kitchen;
  kinds: Kinds;
}) {
  const queries = useQueryClient();
  const live = useLive(instrument.id);
  const tokens = useQuery({
    queryKey: ["tokens"],
    queryFn: () => answer(client.GET("/api/live/tokens")),
  });
  const [copied, setCopied] = useState(false);
  const refresh = () => queries.invalidateQueries({ queryKey: ["tokens"] });
  const ovens = kitchen.hearths.filter((h) => hearthKind(kinds, h.kind)?.heat !== "burner");
  const making = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/live/tokens", {
          body: { instrument_id: instrument.id, hearth_id: ovens[0]?.id ?? null },
        }),
      ),
    onSuccess: refresh,
  });
  const revoking = useMutation({
    mutationFn: (token_id: number) =>
      answer(client.DELETE("/api/live/tokens/{token_id}", { params: { path: { token_id } } })),
    onSuccess: async () => {
      making.reset();
      await refresh();
    },
  });
  const mine = (tokens.data ?? []).filter((t) => t.instrument_id === instrument.id);
  const problem = live.error ?? tokens.error ?? making.error ?? revoking.error;
  return (
    <section aria-label="Live readings" className="grid gap-2.5 border-t border-line pt-3">
      <h2 className="flex items-baseline justify-between text-[16px] font-bold">
        What it says
        <span
          className={`text-[12.5px] font-semibold ${live.open ? "text-air" : "text-ash"}`}
          data-live={live.open ? "open" : "waiting"}
        >
          {live.open ? "live" : "waiting for the server"}
        </span>
      </h2>
      {live.readings.length > 0 ? (
        <LiveTrace readings={live.readings} />
      ) : (
        <p className="text-[13px] text-ash">Nothing yet. Give your device a token, and let it send.</p>
      )}
      <h3 className="mt-1 font-bold">Tokens</h3>
      <ul className="grid gap-1 text-[13px]">
        {mine.map((t) => (
          <li key={t.id} className="flex items-baseline gap-2">
            <code>{t.hint}…</code>
            <span className="text-ash">
              {t.last_used_at
                ? `last used ${new Date(t.last_used_at).toLocaleTimeString([], { timeStyle: "short", hour12: false })}`
                : "not used yet"}
            </span>
            <Button
              aria-label={`Revoke the token ${t.hint}`}
              look="link"
              className="ml-auto text-brick"
              onClick={() => {
                revoking.mutate(t.id);
              }}
            >
              revoke
            </Button>
          </li>
        ))}
      </ul>
      {making.data ? (
        <div role="status" className="grid gap-1 border-l-2 border-brick pl-2 text-[13px]">
          <p className="font-semibold">Copy it now; it is not shown again.</p>
          <code data-testid="secret" className="break-all select-all">
            {making.data.secret}
          </code>
          <Button
            look="link"
            className="justify-self-start text-air"
            onClick={() => {
              void navigator.clipboard.writeText(making.data.secret).then(() => {
                setCopied(true);
              });
            }}
          >
            {copied ? "copied" : "copy"}
          </Button>
        </div>
      ) : null}
      <Button
        className="justify-self-start"
        disabled={making.isPending}
        onClick={() => {
          setCopied(false);
          making.mutate();
        }}
      >
        Make a token
      </Button>
      {problem ? (
        <p role="alert" className="text-brick">
          {problem.message}
        </p>
      ) : null}
    </section>
  );
}
