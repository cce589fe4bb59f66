import { answer, client } from "../../api/client";
import { readDoughs } from "../../api/saved";
import { SavedMenu } from "../../app/SavedMenu";
import { useUnits } from "../../ui/units";

/** Saved doughs. */
export function DoughsMenu({ openId }: { openId: number | null }) {
  const units = useUnits();
  return (
    <SavedMenu
      title="Doughs"
      kind="dough"
      path="/dough"
      fresh="/dough/new"
      openId={openId}
      queryKey={["doughs"]}
      read={readDoughs}
      line={(dough) => ({
        id: dough.id,
        version: dough.version,
        problem: dough.problem,
        name: dough.name,
        note: dough.problem ? "" : `${String(dough.pieces)} in ${units.mass(dough.dough_g ?? 0)}`,
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
