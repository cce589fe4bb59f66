import { useQuery } from "@tanstack/react-query";
import { server } from "../../api/queries";
import { pageBuild, serverVersion } from "../../api/version";
import { useReference } from "../../ui/styles";

const KINDS = { npm: "in the page", pypi: "on the server" } as const;

/** Which Mattone this is, and the software of others that it is made with. */
export function AboutView() {
  const licences = useQuery(server.licences);
  const engine = useReference().data?.reference.engine ?? serverVersion().split("+")[0];
  return (
    <main className="grid max-w-3xl gap-4 p-8">
      <h1 className="font-display text-3xl font-bold">About Mattone</h1>
      <p>
        Version {engine}
        {pageBuild() ? `, page ${pageBuild()}` : ""}. MIT licence.
      </p>
      <p className="max-w-prose">
        Mattone gives cooking advice. For the safe use of your oven or grill, follow its manual and your local
        codes, and ask a licensed technician about gas or wiring.
      </p>
      <h2 className="font-display text-xl font-semibold">Third-party software and its licences</h2>
      {licences.isError ? (
        <p role="alert" className="text-brick">
          {licences.error.message}
        </p>
      ) : null}
      <ul data-testid="licences">
        {(licences.data ?? []).map((one) => (
          <li key={`${one.kind} ${one.name} ${one.version}`} className="border-t border-line">
            <details className="py-1">
              <summary className="min-h-8 cursor-pointer py-1">
                <span className="font-semibold">{one.name}</span> {one.version}
                <span className="text-ash">
                  {" "}
                  · {one.licence} · {KINDS[one.kind]}
                </span>
              </summary>
              <pre
                className="max-h-80 overflow-auto bg-well p-3 text-[12px] whitespace-pre-wrap"
                tabIndex={0}
              >
                {one.text || "This package comes without a licence text of its own."}
              </pre>
            </details>
          </li>
        ))}
      </ul>
    </main>
  );
}
