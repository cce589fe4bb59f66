import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { useUnits } from "../../ui/units";
import { LogPlot } from "./LogPlot";
import type { Hearth, Kitchen } from "./things";

const LARGEST = 200_000;

type LogIn = Schemas["LogIn"];

/** A preheat log shows how far the dial lies; trying it changes nothing until it is put to use. */
export function CalibratePanel({ hearth, kitchen }: { hearth: Hearth; kitchen: Kitchen }) {
  const units = useUnits();
  const queries = useQueryClient();
  const path = { path: { hearth_id: hearth.id } };
  const [csv, setCsv] = useState("");
  const [dial, setDial] = useState(String(Math.min(250, hearth.max_setpoint_c ?? 250)));
  const [level, setLevel] = useState("2");
  const [surface, setSurface] = useState(kitchen.surfaces[0]?.id ?? null);
  const [wrongFile, setWrongFile] = useState("");
  // A wireless thermometer's newest run can stand for a log.
  const [live, setLive] = useState<number | null>(null);
  const senders = kitchen.instruments.filter((i) => i.kind === "wireless");
  const body = (): LogIn => ({
    csv: live === null ? csv : "",
    instrument_id: live,
    setpoint_c: Number(dial.replace(",", ".")),
    level: Number(level),
    fan: false,
    surface_id: surface,
  });
  const history = useQuery({
    queryKey: ["calibrations", hearth.id],
    queryFn: () => answer(client.GET("/api/kitchen/hearths/{hearth_id}/calibrations", { params: path })),
  });
  const refresh = async () => {
    await queries.invalidateQueries({ queryKey: ["kitchen"] });
    await queries.invalidateQueries({ queryKey: ["calibrations", hearth.id] });
    await queries.invalidateQueries({ queryKey: ["match"] });
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
  const wrong = !(Number(dial.replace(",", ".")) >= 100) || (live === null && csv.trim() === "");
  const told = trying.data;
  const newest = history.data?.[0];
  return (
    <section aria-label="Calibrate from a log" className="grid gap-2.5 border-t border-line pt-3">
      <h2 className="text-[16px] font-bold">Does the dial tell the truth?</h2>
      <p className="text-[13px] text-ash">
        Bring the log of one preheat: a heading line, then times with the deck&apos;s or the oven&apos;s
        temperature.
      </p>
      <textarea
        aria-label="the log"
        rows={4}
        className="field px-2 py-1 text-[12.5px]"
        placeholder={"minutes,deck C,oven C\n0,22,22\n1,25,48"}
        disabled={live !== null}
        value={live === null ? csv : ""}
        onChange={(e) => {
          setCsv(e.target.value);
          trying.reset();
        }}
      />
      <label className="text-[13px] text-air underline underline-offset-2">
        or choose a file
        <input
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          className="sr-only"
          onChange={(e) => {
            const file = e.target.files?.[0];
            trying.reset();
            setLive(null);
            if (!file) return;
            if (file.size > LARGEST || /^(image|video|audio)\//.test(file.type)) {
              setWrongFile(
                "This file is no log of a preheat: give a table as text, at most 200 kB. One reading in ten seconds is plenty.",
              );
              return;
            }
            setWrongFile("");
            void file.text().then((text) => {
              if (text.includes("\u0000"))
                setWrongFile("This file is not text; give the log as a table (CSV).");
              else setCsv(text);
            });
            e.target.value = "";
          }}
        />
      </label>
      {senders.map((sender) => (
        <label key={sender.id} className="flex items-center gap-2 text-[13px]">
          <input
            type="checkbox"
            checked={live === sender.id}
            onChange={(e) => {
              trying.reset();
              setWrongFile("");
              setLive(e.target.checked ? sender.id : null);
            }}
          />
          or take the newest run of the {sender.name}
        </label>
      ))}
      {wrongFile ? (
        <p role="alert" className="text-brick">
          {wrongFile}
        </p>
      ) : null}
      <div className="flex flex-wrap items-baseline gap-x-1.5 gap-y-1">
        dial at
        <input
          aria-label="dial during the log, °C"
          inputMode="decimal"
          className="field w-14 px-1 text-right"
          value={dial}
          onChange={(e) => {
            setDial(e.target.value);
          }}
        />
        °C, level
        <input
          aria-label="level during the log"
          inputMode="numeric"
          className="field w-9 px-1 text-right"
          value={level}
          onChange={(e) => {
            setLevel(e.target.value);
          }}
        />
        with
        <select
          aria-label="what was in the oven"
          className="field px-1"
          value={String(surface)}
          onChange={(e) => {
            setSurface(e.target.value === "null" ? null : Number(e.target.value));
          }}
        >
          {kitchen.surfaces.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
          <option value="null">nothing in it</option>
        </select>
      </div>
      <button
        type="button"
        className="quiet justify-self-start"
        disabled={wrong || trying.isPending}
        onClick={() => {
          trying.mutate();
        }}
      >
        {trying.isPending ? "Reading …" : "Read the log"}
      </button>
      {(trying.error ?? using.error ?? rolling.error) ? (
        <p role="alert" className="text-brick">
          {units.say((trying.error ?? using.error ?? rolling.error)?.message ?? "")}
        </p>
      ) : null}
      {told ? (
        <div className="grid gap-2">
          <LogPlot curve={told.curve} />
          <p className={told.trust === "good" ? "font-semibold" : "font-semibold text-brick"}>
            {units.say(told.say)}
          </p>
          <p className="text-[12.5px] text-ash">
            heating {told.power_kw.value.toFixed(1)} kW ± {told.power_kw.plus_minus.toFixed(1)}; losses{" "}
            {told.loss_factor.value.toFixed(2)} and air to deck {told.deck_factor.value.toFixed(2)} times the
            usual; off by {units.tempDifference(told.residual_k)} on average over {told.readings} readings
            {told.dropped > 0 ? `, ${String(told.dropped)} left out` : ""}
          </p>
          {told.trust === "contradictory" ? null : (
            <button
              type="button"
              className="press justify-self-start"
              disabled={using.isPending}
              onClick={() => {
                using.mutate();
              }}
            >
              Use it
            </button>
          )}
        </div>
      ) : null}
      {history.data && history.data.length > 0 ? (
        <ul aria-label="Calibrations in use" className="grid gap-1 text-[13px]">
          {history.data.map((c) => (
            <li key={c.id}>
              <span className="text-ash">{new Date(c.made_at).toLocaleDateString()}</span> {units.say(c.say)}{" "}
              {c.id === newest?.id ? (
                <button
                  type="button"
                  className="font-semibold text-air underline underline-offset-2"
                  disabled={rolling.isPending}
                  onClick={() => {
                    rolling.mutate(c.id);
                  }}
                >
                  roll back
                </button>
              ) : null}
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}
