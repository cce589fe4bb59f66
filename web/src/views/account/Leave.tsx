import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { deleteAccount } from "../../api/account";
import { signOut } from "../../api/session";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";

/** Take everything along; delete the account. */
export function Leave({ email }: { email: string }) {
  const [sure, setSure] = useState(false);
  const [password, setPassword] = useState("");
  const remove = useMutation({
    mutationFn: () => deleteAccount(password),
    onSuccess: () => signOut(),
  });
  return (
    <section className="grid gap-3" aria-label="Export or delete">
      <h2 className="font-display text-xl font-semibold">Export or delete your account</h2>
      <p className="max-w-prose">
        The export is a zip file with everything stored in your account, photos included. Kitchen and logbook
        in it can be imported again.
      </p>
      <a className="quiet justify-self-start" href="/api/logbook/everything" download>
        Export everything
      </a>
      {sure ? (
        <form
          className="grid gap-3 border-l-4 border-brick pl-4"
          onSubmit={(e) => {
            e.preventDefault();
            remove.mutate();
          }}
        >
          <p className="max-w-prose">
            This deletes {email} with its kitchen, plans, doughs, suppers, logbook and photos, at once. It
            cannot be undone.
          </p>
          <Field
            label="Your password"
            type="password"
            autoComplete="current-password"
            required
            value={password}
            error={remove.error?.message}
            onChange={(e) => {
              setPassword(e.target.value);
            }}
          />
          <div className="flex gap-3">
            <Button
              onClick={() => {
                setSure(false);
                setPassword("");
                remove.reset();
              }}
            >
              Keep the account
            </Button>
            <Button type="submit" className="text-brick" disabled={remove.isPending}>
              Delete everything
            </Button>
          </div>
        </form>
      ) : (
        <Button
          className="justify-self-start text-brick"
          onClick={() => {
            setSure(true);
          }}
        >
          Delete this account
        </Button>
      )}
    </section>
  );
}
