import { server } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { numberIn } from "../../ui/numbers";
import { hearthKind } from "../../ui/kinds";
import { useUnits } from "../../ui/units";
import { useKept } from "../../ui/useKept";
import { HowALogIsMade, HowItWasSet, InUse, LogAnswer, type LogSetting } from "./CalibrationParts";
import { LogField } from "./LogField";
import { LogPlot } from "./LogPlot";
import { ThingPage } from "./ThingPage";
import type { Hearth, Kitchen } from "./things";

type LogIn = Schemas["LogIn"];

/** Does the dial of a hearth tell the truth? */
export function DialView() {
  return (
    <ThingPage<Hearth>
      noun="hearths"
      title="Does the dial tell the truth?"
      fits={(hearth, kinds) => hearthKind(kinds, hearth.kind)?.heat === "dial"}
    >
      {(hearth, kitchen) => <Dial key={hearth.id} hearth={hearth} kitchen={kitchen} />}
    </ThingPage>
  );
}

/** A preheat log shows how far the dial lies; trying it changes nothing until it is put to use. */
function Dial({ hearth, kitchen }: { hearth: Hearth; kitchen: Kitchen }) {
  const units = useUnits();
  const queries = useQueryClient();
  const path = { path: { hearth_id: hearth.id } };
  const session = useQuery(server.session);
  // What was pasted outlives a reload.
  const [kept, keep] = useKept<{ csv: string }>(`log ${session.data?.owner ?? ""} ${String(hearth.id)}`);
  const csv = kept?.csv ?? "";
  const setCsv = (text: string) => {
    keep(text ? { csv: text } : null);
  };
  const { shown, kept: keptAs } = units.as("°C");
  const usual = Math.min(250, hearth.max_setpoint_c ?? 250);
  const [setting, setSetting] = useState<LogSetting>({
    dial: String(Math.round(shown(usual))),
    level: "2",
    surface: kitchen.surfaces[0]?.id ?? null,
  });
  // A wireless thermometer's newest run can stand for a log.
  const [live, setLive] = useState<number | null>(null);
  const typed = numberIn(setting.dial) ?? NaN;
  const dial = keptAs(typed);
  const body = (): LogIn => ({
    csv: live === null ? csv : "",
    instrument_id: live,
    setpoint_c: dial,
    level: Number(setting.level),
    fan: false,
    surface_id: setting.surface,
  });
  const history = useQuery({
    queryKey: ["calibrations", hearth.id],
    queryFn: () => answer(client.GET("/api/kitchen/hearths/{hearth_id}/calibrations", { params: path })),
  });
  const refresh = async () => {
    await queries.invalidateQueries({ queryKey: server.kitchen.queryKey });
    await queries.invalidateQueries({ queryKey: ["calibrations", hearth.id] });
    await queries.invalidateQueries({ queryKey: server.match.queryKey });
  };
  const trying = useMutation({
    mutationFn: () =>
      answer(client.POST("/api/kitchen/hearths/{hearth_id}/calibrate", { params: path, body: body() })),
  });
  const using = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/kitchen/hearths/{hearth_id}/calibrations", {
          params: { ...path, query: { version: hearth.version } },
          body: body(),
        }),
      ),
    onSuccess: async () => {
      trying.reset();
      setCsv("");
      await refresh();
    },
  });
  const rolling = useMutation({
    mutationFn: (calibration_id: number) =>
      answer(
        client.POST("/api/kitchen/calibrations/{calibration_id}/roll-back", {
          params: { path: { calibration_id } },
        }),
      ),
    onSuccess: refresh,
  });
  const wrong = !(dial >= 100) || (live === null && csv.trim() === "");
  return (
    <div className="grid items-start gap-6 lg:grid-cols-[1fr_340px]">
      <section aria-label="What the log says" className="grid gap-4 bg-panel p-5">
        {trying.data ? (
          <>
            <LogAnswer
              told={trying.data}
              busy={using.isPending}
              onUse={() => {
                using.mutate();
              }}
            />
            <LogPlot curve={trying.data.curve} />
          </>
        ) : (
          <HowALogIsMade said={history.data?.[0]?.say ?? ""} />
        )}
      </section>
      <section aria-label="Calibrate from a log" className="grid gap-2.5 bg-panel p-4">
        <h2 className="text-[16px] font-bold">The log of one preheat</h2>
        <p className="text-[13px] text-ash">
          A heading line, then times with the deck&apos;s or the oven&apos;s temperature.
        </p>
        <LogField
          csv={csv}
          live={live}
          senders={kitchen.instruments.filter((i) => i.kind === "wireless")}
          onCsv={(text) => {
            setCsv(text);
            trying.reset();
          }}
          onLive={(instrument) => {
            trying.reset();
            setLive(instrument);
          }}
        />
        <HowItWasSet
          kitchen={kitchen}
          setting={setting}
          onSetting={(to) => {
            setSetting({ ...setting, ...to });
          }}
        />
        <Button
          className="justify-self-start"
          disabled={wrong || trying.isPending}
          onClick={() => {
            trying.mutate();
          }}
        >
          {trying.isPending ? "Reading …" : "Read the log"}
        </Button>
        {(trying.error ?? using.error ?? rolling.error) ? (
          <p role="alert" className="text-brick">
            {units.say((trying.error ?? using.error ?? rolling.error)?.message ?? "")}
          </p>
        ) : null}
        {history.data?.length ? (
          <>
            <h2 className="mt-2 text-[16px] font-bold">In use, the newest first</h2>
            <InUse
              made={history.data}
              busy={rolling.isPending}
              onRollBack={(id) => {
                rolling.mutate(id);
              }}
            />
          </>
        ) : null}
      </section>
    </div>
  );
}
