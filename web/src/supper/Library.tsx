import { useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../api/client";
import { server } from "../api/queries";
import { readDoughs, readPlans } from "../api/saved";
import { SavedMenu } from "../app/SavedMenu";
import { useUndo } from "../app/Undo";
import { bakeTime } from "../ui/time";
import { useUnits } from "../ui/units";
import { doughAsked, planPartOf, withDough, withPlan } from "./draft";
import type { DoughInput, DoughPart, PlanPart, SupperDraft } from "./types";
import type { SupperAtHand } from "./useSupper";

export const MOST_NAME = 80;

/** Takes something into the supper at hand, and back out again. */
export function useTaken(supper: SupperAtHand) {
  const offerUndo = useUndo();
  return (text: string, to: (was: SupperDraft) => SupperDraft) => {
    const before = supper.draft;
    supper.change(to);
    offerUndo({
      text,
      undo: () => {
        supper.change(() => before);
      },
    });
  };
}

/** A copy of a saved recipe as the dough of the supper at hand. */
export function useRecipe(supper: SupperAtHand) {
  const queries = useQueryClient();
  const take = useTaken(supper);
  return async (id: number) => {
    const recipe = await queries.fetchQuery(server.dough(id));
    const dough = { name: recipe.name, dough: recipe.dough as DoughInput, mixedAt: null };
    take(`The dough is now “${recipe.name}”.`, (was) => withDough(was, dough));
  };
}

/** A copy of a saved setup as the plan of the supper at hand. */
export function useSetup(supper: SupperAtHand) {
  const queries = useQueryClient();
  const take = useTaken(supper);
  return async (id: number) => {
    const setup = await queries.fetchQuery(server.plan(id));
    take(`It is now baked by “${setup.name}”.`, (was) => withPlan(was, planPartOf(setup)));
  };
}

/** Says what was kept, lists it, and offers to put it away again. */
function useKeptOffer(
  queryKey: readonly string[],
  remove: (id: number, version: number) => Promise<unknown>,
) {
  const queries = useQueryClient();
  const offerUndo = useUndo();
  const list = () => void queries.invalidateQueries({ queryKey });
  return (kind: string, made: { id: number; version: number; name: string }) => {
    list();
    offerUndo({
      text: `Kept as the ${kind} “${made.name}”.`,
      undo: () => void remove(made.id, made.version).finally(list),
    });
  };
}

const removeSetup = (plan_id: number, version: number) =>
  answer(client.DELETE("/api/plans/{plan_id}", { params: { path: { plan_id }, query: { version } } }));
const removeRecipe = (dough_id: number, version: number) =>
  answer(client.DELETE("/api/dough/{dough_id}", { params: { path: { dough_id }, query: { version } } }));

/** Ways of baking that are kept to be used again. */
export function SetupsMenu({ supper, plan }: { supper: SupperAtHand; plan: PlanPart | null }) {
  const offer = useKeptOffer(server.plans.queryKey, removeSetup);
  const use = useSetup(supper);
  const keep = async () => {
    if (!plan) return;
    const name = `${supper.headline?.what.split(/[:,]/)[0] ?? "Setup"}, ${supper.headline?.where ?? ""}`;
    const made = await answer(
      client.POST("/api/plans", { body: { ...plan, name: name.slice(0, MOST_NAME) } }),
    );
    offer("setup", made);
  };
  return (
    <SavedMenu
      title="Setups"
      kind="setup"
      first={{ label: "Save this as a setup", act: () => void keep() }}
      openId={null}
      onOpen={(id) => void use(id)}
      queryKey={["plans"]}
      read={readPlans}
      line={(one) => ({
        id: one.id,
        version: one.version,
        problem: one.problem,
        name: one.name,
        note: one.problem ? "" : `${one.support}, ${bakeTime(one.likely_done_s ?? 0)}`,
      })}
      remove={removeSetup}
      restore={(plan_id) =>
        answer(client.POST("/api/plans/{plan_id}/restore", { params: { path: { plan_id } } }))
      }
    />
  );
}

/** Doughs that are kept to be used again. */
export function RecipesMenu({
  supper,
  dough,
  usual,
}: {
  supper: SupperAtHand;
  dough: DoughPart;
  usual: string;
}) {
  const units = useUnits();
  const offer = useKeptOffer(server.doughs.queryKey, removeRecipe);
  const use = useRecipe(supper);
  const keep = async () => {
    const name = (dough.name || supper.draft.name || usual).slice(0, MOST_NAME);
    const body = { name, dough: doughAsked({ ...dough.dough, seen: [] }), mixed_at: null };
    const made = await answer(client.POST("/api/dough", { body }));
    offer("recipe", made);
  };
  return (
    <SavedMenu
      title="Recipes"
      kind="recipe"
      first={{ label: "Save this as a recipe", act: () => void keep() }}
      openId={null}
      onOpen={(id) => void use(id)}
      queryKey={["doughs"]}
      read={readDoughs}
      line={(one) => ({
        id: one.id,
        version: one.version,
        problem: one.problem,
        name: one.name,
        note: one.problem ? "" : `${String(one.pieces)} in ${units.mass(one.dough_g ?? 0)}`,
      })}
      remove={removeRecipe}
      restore={(dough_id) =>
        answer(client.POST("/api/dough/{dough_id}/restore", { params: { path: { dough_id } } }))
      }
    />
  );
}
