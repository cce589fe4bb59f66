import { answer, client } from "../../api/client";
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
      read={() => answer(client.GET("/api/dough"))}
      line={(dough) => ({
        id: dough.id,
        name: dough.name,
        note: `${String(dough.pieces)} in ${units.mass(dough.dough_g)}`,
      })}
      remove={(dough_id) =>
        answer(client.DELETE("/api/dough/{dough_id}", { params: { path: { dough_id } } }))
      }
      restore={(dough_id) =>
        answer(client.POST("/api/dough/{dough_id}/restore", { params: { path: { dough_id } } }))
      }
    />
  );
}
