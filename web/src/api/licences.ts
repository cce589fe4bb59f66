import { Refusal } from "./client";

/** A third-party package that Mattone ships, with the text of its licence. */
export interface Licence {
  kind: "pypi" | "npm";
  name: string;
  version: string;
  licence: string;
  text: string;
}

/** Written beside the page when it is built. */
export async function readLicences(): Promise<Licence[]> {
  const response = await fetch("/static/licences.json").catch(() => null);
  if (!response?.ok)
    throw new Refusal(0, "", "The list of licences could not be loaded. Try again when the server answers.");
  return (await response.json()) as Licence[];
}
