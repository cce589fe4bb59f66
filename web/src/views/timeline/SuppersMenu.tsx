import { answer, client } from "../../api/client";
import { readSuppers } from "../../api/saved";
import { SavedMenu } from "../../app/SavedMenu";

/** Saved suppers. */
export function SuppersMenu({ openId }: { openId: number | null }) {
  return (
    <SavedMenu
      title="Suppers"
      kind="supper"
      path="/timeline"
      fresh="/timeline/new"
      openId={openId}
      queryKey={["suppers"]}
      read={readSuppers}
      line={(supper) => ({
        id: supper.id,
        version: supper.version,
        name: supper.name,
        note: new Date(supper.serve_at).toLocaleDateString("en-GB", {
          weekday: "short",
          day: "numeric",
          month: "short",
        }),
      })}
      remove={(supper_id, version) =>
        answer(
          client.DELETE("/api/timeline/{supper_id}", { params: { path: { supper_id }, query: { version } } }),
        )
      }
      restore={(supper_id) =>
        answer(client.POST("/api/timeline/{supper_id}/restore", { params: { path: { supper_id } } }))
      }
    />
  );
}
