import { Trouble } from "../../app/Trouble";
import { useQuery } from "@tanstack/react-query";
import { Navigate, useParams } from "react-router";
import { server } from "../../api/queries";
import { useReference, useStyles } from "../../ui/styles";
import { StyleDesk } from "./StyleDesk";

/** A style whole: one of the cook's own to change, or a known one to make one's own of. */
export function StyleView() {
  const { styleKey = "" } = useParams();
  const session = useQuery(server.session);
  const styles = useStyles();
  const reference = useReference();
  const problem = styles.error ?? reference.error;
  if (problem)
    return (
      <Trouble
        message={problem.message}
        again={() => {
          void styles.refetch();
          reference.refetch();
        }}
      />
    );
  if (!styles.data || !reference.data)
    return (
      <main aria-busy="true" aria-label="Opening the style" className="m-6 h-[560px] bg-panel waiting" />
    );
  const own = styles.data.own.find((one) => `own-${String(one.id)}` === styleKey) ?? null;
  const known = styles.data.known.find((one) => one.key === styleKey);
  const body = own?.style ?? (known && { ...known, name: `my ${known.name}`.slice(0, 60) });
  if (!body) return <Navigate to="/match" replace />;
  return (
    <StyleDesk
      key={styleKey}
      styleKey={styleKey}
      owner={session.data?.owner ?? ""}
      own={own}
      body={body}
      lines={reference.data.styles}
      reference={reference.data.reference}
    />
  );
}
