import { server } from "../../api/queries";
import { lockedEvents } from "../../api/eventStore";
import { finishLeaving, leaving, wasOwner } from "../../api/session";
import { Button } from "../../ui/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { doorOpen, forgot, signIn, signUp } from "../../api/account";
import { Refusal } from "../../api/client";
import { useEvening } from "../../app/evening";
import { Field } from "../../ui/Field";
import { Oven } from "../../ui/Oven";

export function SignInView() {
  useEvening();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const locked = useQuery({ queryKey: ["locked-events"], queryFn: lockedEvents, staleTime: 0 });
  const [fresh, setFresh] = useState(false);
  const [forgetting, setForgetting] = useState(false);
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const enter = useMutation({
    mutationFn: async () => {
      if (forgetting) {
        await forgot(email);
        return "If a kitchen is kept under this address, a mail with a link is on its way.";
      }
      // A sign-out that the server has not heard of comes first.
      if (!(await finishLeaving()))
        throw new Refusal(0, "", "The server does not answer. Try again in a moment.");
      if (fresh && !(await signUp(email, password)))
        return "Open the link in the mail we sent you; it proves that the address is yours.";
      if (!fresh) await signIn(email, password);
      const before = wasOwner();
      const session = await queries.fetchQuery({ ...server.session, staleTime: 0 });
      // The address in the bar is the last cook's: nobody else is led there.
      if (before !== null && session?.owner !== before) void navigate("/");
      return "";
    },
  });
  const door = useQuery({ queryKey: ["door"], queryFn: doorOpen, staleTime: Infinity });
  const refusal = enter.error instanceof Refusal ? enter.error : null;
  const at = (field: string) => (refusal?.path === field ? refusal.message : undefined);
  return (
    <main className="grid min-h-full md:grid-cols-[1fr_30rem]">
      <div className="hidden place-items-center bg-well md:grid">
        <Oven />
      </div>
      <form
        className="grid content-center gap-4 bg-panel px-8 py-10 md:px-14"
        onSubmit={(e) => {
          e.preventDefault();
          enter.mutate();
        }}
      >
        <h1 className="font-display text-5xl font-bold tracking-tight">Mattone</h1>
        <p className="max-w-80 text-base text-ash">
          Your oven, your stone or steel or tray, and the crust you want: when to heat, where to put it, when
          to look.
        </p>
        <Field
          label="Email"
          type="email"
          autoComplete="email"
          required
          value={email}
          error={at("email")}
          onChange={(e) => {
            setEmail(e.target.value);
          }}
        />
        {forgetting ? null : (
          <Field
            label="Password"
            type="password"
            autoComplete={fresh ? "new-password" : "current-password"}
            required
            value={password}
            error={at("password")}
            {...(fresh ? { hint: "Ten characters or more." } : {})}
            onChange={(e) => {
              setPassword(e.target.value);
            }}
          />
        )}
        {refusal && !at("email") && !at("password") ? (
          <p role="alert" className="text-brick">
            {refusal.message}
          </p>
        ) : null}
        <Button type="submit" look="press" className="text-base" disabled={enter.isPending}>
          {forgetting ? "Send me a link" : fresh ? "Open a kitchen" : "Sign in"}
        </Button>
        {locked.data ? (
          <p className="max-w-80 text-ash" data-testid="locked-events">
            {locked.data === 1 ? "One entry" : `${String(locked.data)} entries`} of a cook who was signed in
            here could not be sent yet. {locked.data === 1 ? "It is" : "They are"} encrypted on this device,
            and {locked.data === 1 ? "is" : "are"} sent when that cook signs in again.
          </p>
        ) : null}
        {leaving() ? (
          <p className="max-w-80 text-ash">
            You are signed out on this device. The server is told as soon as it answers.
          </p>
        ) : null}
        {enter.data ? <p role="status">{enter.data}</p> : null}
        {door.data?.signUp === false && !fresh ? null : (
          <button
            type="button"
            className="justify-self-start text-air underline underline-offset-4"
            onClick={() => {
              setFresh(!fresh);
              setForgetting(false);
              enter.reset();
            }}
          >
            {fresh ? "I have a kitchen here: sign in" : "New here: open a kitchen"}
          </button>
        )}
        {door.data?.byMail ? (
          <button
            type="button"
            className="justify-self-start text-air underline underline-offset-4"
            onClick={() => {
              setForgetting(!forgetting);
              setFresh(false);
              enter.reset();
            }}
          >
            {forgetting ? "I know it after all" : "I forgot my password"}
          </button>
        ) : (
          <details className="text-ash">
            <summary className="cursor-pointer">I forgot my password</summary>
            <p className="max-w-80 pt-1">
              This Mattone sends no mail. Whoever runs it sets a new one with{" "}
              <code>./mattone password ADDRESS</code>.
            </p>
          </details>
        )}
      </form>
    </main>
  );
}
