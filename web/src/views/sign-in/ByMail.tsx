import { Button } from "../../ui/Button";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useState, type ReactNode } from "react";
import { Link, useParams } from "react-router";
import { resetPassword, verifyAddress } from "../../api/account";
import { Refusal } from "../../api/client";
import { Field } from "../../ui/Field";

function Leaf({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="grid min-h-full content-center justify-items-center gap-4 bg-panel p-8">
      <h1 className="font-display text-3xl font-bold">{title}</h1>
      {children}
      <Link className="text-air underline underline-offset-4" to="/">
        To the sign-in
      </Link>
    </main>
  );
}

/** Where the mail about a forgotten password leads. */
export function NewPasswordView() {
  const { key = "" } = useParams();
  const [password, setPassword] = useState("");
  const set = useMutation({ mutationFn: () => resetPassword(key, password) });
  const refusal = set.error instanceof Refusal ? set.error : null;
  if (set.isSuccess)
    return (
      <Leaf title="A new password">
        <p role="status">It is set. Sign in with it.</p>
      </Leaf>
    );
  return (
    <Leaf title="A new password">
      <form
        className="grid w-full max-w-80 gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          set.mutate();
        }}
      >
        <Field
          label="New password"
          type="password"
          autoComplete="new-password"
          hint="Ten characters or more."
          required
          value={password}
          error={refusal?.path === "password" ? refusal.message : undefined}
          onChange={(e) => {
            setPassword(e.target.value);
          }}
        />
        {refusal && refusal.path !== "password" ? (
          <p role="alert" className="text-brick">
            This link does not work any more; ask for another one.
          </p>
        ) : null}
        <Button type="submit" look="press" disabled={set.isPending}>
          Set it
        </Button>
      </form>
    </Leaf>
  );
}

/** Where the first mail leads. */
export function VerifyView() {
  const { key = "" } = useParams();
  const { mutate, isSuccess, isError } = useMutation({ mutationFn: verifyAddress });
  useEffect(() => {
    mutate(key);
  }, [key, mutate]);
  return (
    <Leaf title="Your address">
      <p role="status">
        {isSuccess
          ? "It is yours. Sign in now."
          : isError
            ? "This link does not work any more; sign in, and another one is sent."
            : "One moment."}
      </p>
    </Leaf>
  );
}
