import { useState, type FormEvent, type ReactNode } from "react";
import { Dial } from "../shared/charts/Dial.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { fieldsOf } from "../shared/fields/fieldsOf.ts";

/** A signing in under way. */
export interface SigningIn {
  readonly mutate: (given: { login: string; password: string }) => void;
  readonly error: Error | null;
  readonly isPending: boolean;
}

interface Props {
  readonly signIn: SigningIn;
  /** Whose name stands there already. */
  readonly login?: string;
  /** What is said above the fields. */
  readonly before?: ReactNode;
  /** What can be done instead. */
  readonly instead?: ReactNode;
}

/** A name, a password, and in. */
export function SignInForm({ signIn, login, before, instead }: Props) {
  const [missing, setMissing] = useState({ login: false, password: false });
  const onSubmit = (event: FormEvent<HTMLFormElement>): void => {
    const fields = fieldsOf(event);
    const given = { login: fields.text("login"), password: fields.text("password") };
    setMissing({ login: given.login === "", password: given.password === "" });
    if (given.login !== "" && given.password !== "") signIn.mutate(given);
  };
  const isKnown = login !== undefined;
  return (
    <form className="w-88 bg-base-100 border rule" onSubmit={onSubmit} noValidate>
      <div
        className="flex items-center gap-3 px-6 py-4"
        style={{ background: "var(--bar-ground)", color: "var(--bar-ink)" }}
      >
        <Dial share={0.62} size={44} />
        <div>
          <h1 className="text-2xl">Chronometra</h1>
          <p className="text-xs" style={{ color: "var(--bar-muted)" }}>
            plans, promises and what became of them
          </p>
        </div>
      </div>
      <div className="flex flex-col gap-3 px-6 py-5">
        {before}
        <label className="flex flex-col gap-1">
          <span className="font-semibold">Name</span>
          <input
            className="input w-full"
            autoComplete="username"
            autoFocus={!isKnown}
            readOnly={isKnown}
            name="login"
            defaultValue={login ?? ""}
            aria-invalid={missing.login}
          />
          {missing.login && <span className="adverse text-sm">Give the name you sign in with.</span>}
        </label>
        <label className="flex flex-col gap-1">
          <span className="font-semibold">Password</span>
          <input
            className="input w-full"
            type="password"
            autoComplete="current-password"
            name="password"
            aria-invalid={missing.password}
          />
          {missing.password && <span className="adverse text-sm">Give your password.</span>}
        </label>
        {signIn.error !== null && <Failure error={signIn.error} />}
        <button className="btn btn-primary" disabled={signIn.isPending}>
          Sign in
        </button>
        {instead}
      </div>
    </form>
  );
}

/** The way in. */
export const WayIn = ({ signIn }: { signIn: SigningIn }) => (
  <main className="flex h-full items-center justify-center bg-base-200 p-4">
    <SignInForm signIn={signIn} />
  </main>
);
