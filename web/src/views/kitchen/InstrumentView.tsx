import { Button } from "../../ui/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { hearthKind, type Kinds } from "../../ui/kinds";
import { LiveTrace } from "./LiveTrace";
import { ThingPage } from "./ThingPage";
import type { Instrument, Kitchen } from "./things";
import { useLive } from "./useLive";

/** What a wireless thermometer says, large enough to be read across the kitchen. */
export function InstrumentView() {
  return (
    <ThingPage<Instrument> noun="instruments" title="What it says" fits={({ kind }) => kind === "wireless"}>
      {(instrument, kitchen, kinds) => (
        <Says key={instrument.id} instrument={instrument} kitchen={kitchen} kinds={kinds} />
      )}
    </ThingPage>
  );
}

/** A wireless thermometer: what it says now, and the tokens its device may write with. */
function Says({ instrument, kitchen, kinds }: { instrument: Instrument; kitchen: Kitchen; kinds: Kinds }) {
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
    <div className="grid items-start gap-6 lg:grid-cols-[1fr_300px]">
      <section aria-label="Live readings" className="grid gap-2.5 bg-panel p-5">
        <p
          className={`justify-self-end font-semibold ${live.open ? "text-air" : "text-ash"}`}
          data-live={live.open ? "open" : "waiting"}
        >
          {live.open ? "live" : "waiting for the server"}
        </p>
        {live.readings.length > 0 ? (
          <LiveTrace readings={live.readings} />
        ) : (
          <p className="max-w-xl text-[17px]">Nothing yet. Give your device a token, and let it send.</p>
        )}
      </section>
      <section aria-label="Tokens" className="grid gap-2.5 bg-panel p-4">
        <h2 className="text-[16px] font-bold">Tokens</h2>
        <p className="text-[13px] text-ash">What a device writes here with. Each is shown once.</p>
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
    </div>
  );
}
