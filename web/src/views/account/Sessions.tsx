import { useMutation, useQuery } from "@tanstack/react-query";
import { endSessions } from "../../api/account";
import { server } from "../../api/queries";
import { Button } from "../../ui/Button";
import { deviceOf } from "./device";

/** Where this cook is signed in, and a way to sign out there. */
export function Sessions() {
  const sessions = useQuery(server.sessions);
  const ending = useMutation({
    mutationFn: endSessions,
    onSettled: () => sessions.refetch(),
  });
  const rows = sessions.data ?? [];
  const others = rows.filter((one) => !one.is_current).map((one) => one.id);
  const problem = sessions.error ?? ending.error;
  return (
    <section className="grid gap-2" aria-label="Signed-in devices">
      <h2 className="font-display text-xl font-semibold">Signed-in devices</h2>
      {problem ? (
        <p role="alert" className="text-brick">
          {problem.message}
        </p>
      ) : null}
      <ul>
        {rows.map((one) => (
          <li key={one.id} className="flex flex-wrap items-baseline gap-x-4 border-t border-line py-2">
            <span className="min-w-0 flex-1">
              {deviceOf(one.user_agent)}
              {one.is_current ? " (this device)" : ""}
              <span className="block text-[14px] text-ash">
                since{" "}
                {new Date(one.created_at * 1000).toLocaleString([], {
                  dateStyle: "medium",
                  timeStyle: "short",
                })}
                , from {one.ip}
              </span>
            </span>
            {one.is_current ? null : (
              <Button
                look="link"
                className="min-h-8 text-air"
                disabled={ending.isPending}
                onClick={() => {
                  ending.mutate([one.id]);
                }}
              >
                Sign out there
              </Button>
            )}
          </li>
        ))}
      </ul>
      {others.length > 0 ? (
        <Button
          className="justify-self-start"
          disabled={ending.isPending}
          onClick={() => {
            ending.mutate(others);
          }}
        >
          Sign out on all other devices
        </Button>
      ) : null}
    </section>
  );
}
