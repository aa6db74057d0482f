import { useSignIn } from "../shared/session/session.ts";
import { WayIn } from "./SignIn.tsx";

/** The way in where the pages are there already, as after signing out. */
export default function SignInPage() {
  return <WayIn signIn={useSignIn()} />;
}
