import { useQuery } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { server } from "../api/queries";
import { onVersion, pageIsOutdated } from "../api/version";
import { Button } from "../ui/Button";

/** Asks for a reload when the server has a newer page; never while a pizza is in the oven. */
export function NewVersion() {
  const outdated = useSyncExternalStore(onVersion, pageIsOutdated);
  const underWay = useQuery({ ...server.underWay, enabled: outdated });
  if (!outdated || underWay.data?.some((bake) => bake.stage === "baking")) return null;
  return (
    <div
      role="status"
      data-testid="new-version"
      className="flex flex-wrap items-baseline gap-x-4 border-b border-line bg-panel px-4 py-1.5 text-[14px] print:hidden"
    >
      <p>Mattone has been updated. Reload this page to use the new version; your drafts are kept.</p>
      <Button
        look="link"
        className="text-air"
        onClick={() => {
          window.location.reload();
        }}
      >
        Reload
      </Button>
    </div>
  );
}
