import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { momentWords } from "../shared/words/words.ts";
import { askedGatesQuery } from "./queries.ts";

/** Gates that are asked for, in all projects. */
export function AskedGates() {
  const query = useQuery(askedGatesQuery);
  return (
    <>
      <h2 className="pt-6 text-lg">Gates</h2>
      <Loaded query={query}>
        {(gates) =>
          gates.length === 0 ? (
            <p className="muted mt-2">No gate waits. One is asked for on a project’s page “Stages and gates”.</p>
          ) : (
            <ul>
              {gates.map(({ project, code, name, stage, gate, by, at, word, decider, mayDecide }) => (
                <li key={project} className="border-b rule py-3">
                  <h3 className="text-base">
                    <Link className="link-quiet" to={`/projects/${project}/stages?stage=${stage}`}>
                      <span className="muted">{code}</span> {name}: {gate}
                    </Link>
                  </h3>
                  <p className="muted text-sm">
                    {by} asked for it on {momentWords(at)}; {decider ?? "any approver"} decides.
                  </p>
                  {word !== "" && <p className="mt-1 max-w-prose">“{word}”</p>}
                  {mayDecide && (
                    <Link className="btn btn-sm mt-2" to={`/projects/${project}/stages?stage=${stage}`}>
                      See what stands, and decide
                    </Link>
                  )}
                </li>
              ))}
            </ul>
          )
        }
      </Loaded>
    </>
  );
}
