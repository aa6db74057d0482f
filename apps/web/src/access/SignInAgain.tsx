import type { Me } from "@chronometra/contract";
import { useEffect, useRef } from "react";
import { sendWhatWaits } from "../plan/engine/session/usePlanSession.ts";
import { useLeave, useSignIn } from "../shared/session/session.ts";
import { SignInForm } from "./SignIn.tsx";

/**
 * Stands before the pages of someone whose session ran out, dialogs of theirs included, until they are back or leave
 * for good.
 */
export default function SignInAgain({ me }: { me: Me }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const leave = useLeave();
  const signIn = useSignIn();
  useEffect(() => {
    const before = document.activeElement;
    dialog.current?.showModal();
    // The name is there already.
    dialog.current?.querySelector<HTMLInputElement>("input[type=password]")?.focus();
    return () => {
      sendWhatWaits();
      // Once the pages can be seen again they can take the keyboard.
      setTimeout(() => before instanceof HTMLElement && before.focus(), 0);
    };
  }, []);
  return (
    <dialog
      ref={dialog}
      aria-label="Sign in again"
      onCancel={(event) => event.preventDefault()}
      // A browser lets a second Escape close what does not want to be closed.
      onClose={() => dialog.current?.showModal()}
      className="m-auto bg-transparent p-0 text-base-content backdrop:bg-base-200"
    >
      <SignInForm
        signIn={signIn}
        login={me.login}
        before={
          <p className="text-sm">
            Your session has ended. Sign in to go on where you were, {me.name}; what you typed is still there.
          </p>
        }
        instead={
          <button type="button" className="btn btn-ghost btn-sm" onClick={leave}>
            Leave the page and sign in as someone else
          </button>
        }
      />
    </dialog>
  );
}
