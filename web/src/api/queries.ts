import { queryOptions } from "@tanstack/react-query";
import { nowMs } from "../ui/clock";
import { listSessions, whoIsIn } from "./account";
import { readLicences } from "./licences";
import { answer, client, type Schemas } from "./client";
import { adoptSession, finishLeaving, SESSION_KEY } from "./session";
import type { Session } from "./kept";
import { readDoughs, readPlans, readSuppers } from "./saved";

/** What is known of a bake now, and what to do, by the clock that bakes go by. */
export const answerBake = (bake_id: number) =>
  answer(
    client.POST("/api/bakes/{bake_id}/answer", {
      params: { path: { bake_id } },
      body: { at: new Date(nowMs()).toISOString() },
    }),
  );

/** Who is signed in, by the server's word; this device is that cook's from then on. */
async function session(): Promise<Session | null> {
  const found = (await finishLeaving()) ? await whoIsIn() : null;
  await adoptSession(found);
  return found;
}

/** What the page asks the server for in more than one place: one key and one question each. */
export const server = {
  session: queryOptions({ queryKey: SESSION_KEY, queryFn: session, staleTime: Infinity }),
  sessions: queryOptions({ queryKey: ["sessions"], queryFn: listSessions, staleTime: 0 }),
  licences: queryOptions({ queryKey: ["licences"], queryFn: readLicences, staleTime: Infinity }),
  kitchen: queryOptions({ queryKey: ["kitchen"], queryFn: () => answer(client.GET("/api/kitchen")) }),
  rigs: queryOptions({
    queryKey: ["kitchen", "rigs"],
    queryFn: () => answer(client.GET("/api/kitchen/rigs")),
  }),
  catalogue: queryOptions({
    queryKey: ["catalogue"],
    queryFn: () => answer(client.GET("/api/kitchen/catalogue")),
    staleTime: Infinity,
  }),
  reference: queryOptions({
    queryKey: ["reference"],
    queryFn: () => answer(client.GET("/api/reference")),
    staleTime: Infinity,
  }),
  doughReference: queryOptions({
    queryKey: ["dough-reference"],
    queryFn: () => answer(client.GET("/api/reference/dough")),
    staleTime: Infinity,
  }),
  styles: queryOptions({ queryKey: ["styles"], queryFn: () => answer(client.GET("/api/styles")) }),
  match: queryOptions({ queryKey: ["match"], queryFn: () => answer(client.GET("/api/match")) }),
  plans: queryOptions({ queryKey: ["plans"], queryFn: readPlans }),
  doughs: queryOptions({ queryKey: ["doughs"], queryFn: readDoughs }),
  suppers: queryOptions({ queryKey: ["suppers"], queryFn: readSuppers }),
  nextStep: queryOptions({
    queryKey: ["next-step"],
    queryFn: () => answer(client.GET("/api/timeline/next")),
  }),
  plan: (plan_id: number) =>
    queryOptions({
      queryKey: ["plan", plan_id],
      queryFn: () => answer(client.GET("/api/plans/{plan_id}", { params: { path: { plan_id } } })),
    }),
  dough: (dough_id: number) =>
    queryOptions({
      queryKey: ["dough", dough_id],
      queryFn: () => answer(client.GET("/api/dough/{dough_id}", { params: { path: { dough_id } } })),
    }),
  taught: queryOptions({
    queryKey: ["logbook", "taught"],
    queryFn: () => answer(client.GET("/api/logbook/taught")),
  }),
  faults: queryOptions({
    queryKey: ["faults"],
    queryFn: () => answer(client.GET("/api/logbook/faults")),
    staleTime: Infinity,
  }),
  entry: (entry_id: number) =>
    queryOptions({
      queryKey: ["logbook", "entry", entry_id],
      queryFn: () => answer(client.GET("/api/logbook/{entry_id}", { params: { path: { entry_id } } })),
    }),
  liked: (style: Schemas["Sentence"]["style"], own_style_id: number | null) =>
    queryOptions({
      queryKey: ["logbook", "liked", style, own_style_id],
      queryFn: () =>
        answer(
          client.GET("/api/logbook/liked", {
            params: { query: { style: style ?? "home_oven_round", own_style_id } },
          }),
        ),
    }),
  photos: (entry_id: number) =>
    queryOptions({
      queryKey: ["logbook", "photos", entry_id],
      queryFn: () => answer(client.GET("/api/logbook/{entry_id}/photos", { params: { path: { entry_id } } })),
    }),
  lastBakes: queryOptions({
    queryKey: ["logbook", "last"],
    queryFn: () => answer(client.GET("/api/logbook", { params: { query: { page_size: 200 } } })),
  }),
  nextTime: (entry_id: number, version: number) =>
    queryOptions({
      queryKey: ["logbook", "next", entry_id, version],
      queryFn: () => answer(client.GET("/api/logbook/{entry_id}/next", { params: { path: { entry_id } } })),
    }),
  underWay: queryOptions({
    queryKey: ["bakes", "under-way"],
    queryFn: () => answer(client.GET("/api/bakes/under-way")),
  }),
  bake: (bake_id: number) =>
    queryOptions({
      queryKey: ["bake", bake_id],
      queryFn: () => answer(client.GET("/api/bakes/{bake_id}", { params: { path: { bake_id } } })),
    }),
  supper: (supper_id: number) =>
    queryOptions({
      queryKey: ["supper", supper_id],
      queryFn: () => answer(client.GET("/api/timeline/{supper_id}", { params: { path: { supper_id } } })),
    }),
};
