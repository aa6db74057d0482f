import { StrictMode, useState } from "react";
import { createRoot } from "react-dom/client";
import type { SessionView } from "@chronometra/contract";
import { call } from "../shared/session/api.ts";
import { WayIn, type SigningIn } from "./SignIn.tsx";

/** Signing in before the pages are there. */
function useFirstSignIn(onSignedIn: (session: SessionView) => void): SigningIn {
  const [state, setState] = useState<Pick<SigningIn, "error" | "isPending">>({ error: null, isPending: false });
  const mutate = (body: { login: string; password: string }): void => {
    setState({ error: null, isPending: true });
    call("POST /api/session", { body }).then(onSignedIn, (error: unknown) =>
      setState({ error: error instanceof Error ? error : new Error(String(error)), isPending: false }),
    );
  };
  return { ...state, mutate };
}

interface Props {
  readonly onSignedIn: (session: SessionView) => void;
  /** Told once someone begins to type: they will want the pages. */
  readonly onBegun: () => void;
}

function First({ onSignedIn, onBegun }: Props) {
  const signIn = useFirstSignIn(onSignedIn);
  return (
    <div className="h-full" onInput={onBegun}>
      <WayIn signIn={signIn} />
    </div>
  );
}

/** Shows the way in, and nothing of what comes after it; gives who has come in. */
export const showWayIn = (element: HTMLElement, onBegun: () => void): Promise<SessionView> =>
  new Promise((resolve) => {
    const root = createRoot(element);
    const onSignedIn = (session: SessionView): void => {
      root.unmount();
      resolve(session);
    };
    root.render(
      <StrictMode>
        <First onSignedIn={onSignedIn} onBegun={onBegun} />
      </StrictMode>,
    );
  });
