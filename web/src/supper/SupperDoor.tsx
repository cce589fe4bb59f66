import { useQuery } from "@tanstack/react-query";
import { Navigate, useParams } from "react-router";
import { server } from "../api/queries";
import { Trouble } from "../app/Trouble";
import { rememberedSupper, supperAtHand } from "./atHand";
import { beginWith, newIsBegun, NEW, partPath, planPartOf } from "./draft";
import type { DoughInput, Part } from "./types";

const FRESH = { path: partPath(NEW, "plan"), name: "A new supper" };

/** A view without a supper in its address opens on the one at hand. */
export function SupperDoor({ part }: { part: Part }) {
  const suppers = useQuery(server.suppers);
  const session = useQuery(server.session);
  if (suppers.error)
    return <Trouble fresh={FRESH} message={suppers.error.message} again={() => void suppers.refetch()} />;
  if (!suppers.data || !session.data) return <Waiting />;
  const place = supperAtHand(suppers.data, rememberedSupper(), newIsBegun(session.data.owner), Date.now());
  return <Navigate replace to={partPath(place, part)} />;
}

/** The address of a plan as it was before suppers had their own: its supper's, or a new supper that is baked so. */
export function PlanDoor() {
  const id = Number(useParams().planId);
  const session = useQuery(server.session);
  const plan = useQuery(server.plan(id));
  if (plan.error)
    return <Trouble fresh={FRESH} message={plan.error.message} again={() => void plan.refetch()} />;
  if (!plan.data || !session.data) return <Waiting />;
  if (plan.data.supper_id != null) return <Navigate replace to={partPath(plan.data.supper_id, "plan")} />;
  beginWith(session.data.owner, { plan: planPartOf(plan.data) });
  return <Navigate replace to={partPath(NEW, "plan")} />;
}

/** The address of a dough as it was before suppers had their own. */
export function DoughDoor() {
  const id = Number(useParams().doughId);
  const session = useQuery(server.session);
  const dough = useQuery(server.dough(id));
  if (dough.error)
    return <Trouble fresh={FRESH} message={dough.error.message} again={() => void dough.refetch()} />;
  if (!dough.data || !session.data) return <Waiting />;
  if (dough.data.supper_id != null) return <Navigate replace to={partPath(dough.data.supper_id, "dough")} />;
  const { name, mixed_at } = dough.data;
  const part = { name, dough: dough.data.dough as DoughInput, mixedAt: mixed_at ?? null };
  beginWith(session.data.owner, { dough: part });
  return <Navigate replace to={partPath(NEW, "dough")} />;
}

/** The address of a supper's days as it was before. */
export function OldTimeline() {
  return <Navigate replace to={partPath(useParams().supperId ?? NEW, "timeline")} />;
}

function Waiting() {
  return <main aria-busy="true" aria-label="Opening the supper" className="p-5 waiting" />;
}
