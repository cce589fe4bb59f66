import { useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../api/client";
import { server } from "../api/queries";
import { readDoughs, readPlans } from "../api/saved";
import { SavedMenu } from "../app/SavedMenu";
import { useUndo } from "../app/Undo";
import { bakeTime } from "../ui/time";
import { useUnits } from "../ui/units";
import { doughAsked, draftOf, withDough, withPlan } from "./draft";
import type { DoughInput, DoughPart, PlanPart, SupperDraft } from "./types";
import type { SupperAtHand } from "./useSupper";

const MOST_NAME = 80;

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
    const { plan } = draftOf({ plan: setup } as unknown as Parameters<typeof draftOf>[0]);
    if (plan) take(`It is now baked by “${setup.name}”.`, (was) => withPlan(was, plan));
  };
}

/** Ways of baking that are kept to be used again. */
export function SetupsMenu({ supper, plan }: { supper: SupperAtHand; plan: PlanPart | null }) {
  const queries = useQueryClient();
  const offerUndo = useUndo();
  const use = useSetup(supper);
  const keep = async () => {
    if (!plan) return;
    const name = `${supper.headline?.what.split(/[:,]/)[0] ?? "Setup"}, ${supper.headline?.where ?? ""}`;
    const made = await answer(
      client.POST("/api/plans", { body: { ...plan, name: name.slice(0, MOST_NAME) } }),
    );
    void queries.invalidateQueries({ queryKey: server.plans.queryKey });
    offerUndo({
      text: `Kept as the setup “${made.name}”.`,
      undo: () => {
        const params = { path: { plan_id: made.id }, query: { version: made.version } };
        void answer(client.DELETE("/api/plans/{plan_id}", { params })).finally(
          () => void queries.invalidateQueries({ queryKey: server.plans.queryKey }),
        );
      },
    });
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
      remove={(plan_id, version) =>
        answer(client.DELETE("/api/plans/{plan_id}", { params: { path: { plan_id }, query: { version } } }))
      }
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
  const queries = useQueryClient();
  const offerUndo = useUndo();
  const use = useRecipe(supper);
  const keep = async () => {
    const name = (dough.name || supper.draft.name || usual).slice(0, MOST_NAME);
    const body = { name, dough: doughAsked({ ...dough.dough, seen: [] }), mixed_at: null };
    const made = await answer(client.POST("/api/dough", { body }));
    void queries.invalidateQueries({ queryKey: server.doughs.queryKey });
    offerUndo({
      text: `Kept as the recipe “${made.name}”.`,
      undo: () => {
        const params = { path: { dough_id: made.id }, query: { version: made.version } };
        void answer(client.DELETE("/api/dough/{dough_id}", { params })).finally(
          () => void queries.invalidateQueries({ queryKey: server.doughs.queryKey }),
        );
      },
    });
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
      remove={(dough_id, version) =>
        answer(client.DELETE("/api/dough/{dough_id}", { params: { path: { dough_id }, query: { version } } }))
      }
      restore={(dough_id) =>
        answer(client.POST("/api/dough/{dough_id}/restore", { params: { path: { dough_id } } }))
      }
    />
  );
}
