import { Button } from "../../ui/Button";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { changePassword } from "../../api/account";
import { Refusal } from "../../api/client";
import { Field } from "../../ui/Field";
import { Link } from "react-router";
import { Leave } from "./Leave";
import { Sessions } from "./Sessions";

export function AccountView({ email }: { email: string }) {
  const [current, setCurrent] = useState("");
  const [next, setNext] = useState("");
  const change = useMutation({
    mutationFn: () => changePassword(current, next),
    onSuccess: () => {
      setCurrent("");
      setNext("");
    },
  });
  const refusal = change.error instanceof Refusal ? change.error : null;
  const at = (field: string) => (refusal?.path === field ? refusal.message : undefined);
  return (
    <main className="grid max-w-xl gap-8 p-8">
      <h1 className="font-display text-3xl font-bold">Account</h1>
      <p className="text-ash">Signed in as {email}</p>
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          change.mutate();
        }}
      >
        <h2 className="font-display text-xl font-semibold">Change password</h2>
        <Field
          label="Current password"
          type="password"
          autoComplete="current-password"
          required
          value={current}
          error={at("current_password")}
          onChange={(e) => {
            setCurrent(e.target.value);
          }}
        />
        <Field
          label="New password"
          type="password"
          autoComplete="new-password"
          required
          value={next}
          error={at("new_password")}
          hint="Ten characters or more."
          onChange={(e) => {
            setNext(e.target.value);
          }}
        />
        {refusal && !at("current_password") && !at("new_password") ? (
          <p role="alert" className="text-brick">
            {refusal.message}
          </p>
        ) : null}
        <Button type="submit" look="press" className="justify-self-start" disabled={change.isPending}>
          Change password
        </Button>
        {change.isSuccess ? <p role="status">Your password is changed.</p> : null}
      </form>
      <Sessions />
      <Leave email={email} />
      <Link className="justify-self-start text-air underline underline-offset-4" to="/about">
        About Mattone, and third-party licences
      </Link>
    </main>
  );
}
