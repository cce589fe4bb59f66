import { useNavigate } from "react-router";
import { answer, client } from "../api/client";
import { readSuppers } from "../api/saved";
import { SavedMenu } from "../app/SavedMenu";
import { NEW, partPath } from "./draft";
import type { Part } from "./types";

/** Saved suppers: one list, in every view. */
export function SuppersMenu({ openId, part }: { openId: number | null; part: Part }) {
  const navigate = useNavigate();
  const fresh = () => {
    void navigate(partPath(NEW, part));
  };
  return (
    <SavedMenu
      title="Suppers"
      kind="supper"
      first={{ label: "A new supper", act: fresh }}
      openId={openId}
      onOpen={(id) => {
        void navigate(partPath(id, part));
      }}
      onGone={fresh}
      queryKey={["suppers"]}
      read={readSuppers}
      line={(supper) => ({
        id: supper.id,
        version: supper.version,
        problem: supper.problem,
        name: supper.name,
        note: supper.serve_at
          ? new Date(supper.serve_at).toLocaleDateString("en-GB", {
              weekday: "short",
              day: "numeric",
              month: "short",
            })
          : "no date yet",
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
