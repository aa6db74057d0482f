import type { BeginEffectAsked, Portfolio, Template } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { portfolioQuery } from "../project/queries.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { AlongFields } from "./said/AlongFields.tsx";
import { CalledForm } from "./said/CalledForm.tsx";
import { DateFields, wishOf, type Dated } from "./said/DateFields.tsx";
import { Outcome } from "./seen/Outcome.tsx";
import { templatesQuery } from "./seen/queries.ts";
import { Repeats, type Times } from "./said/Repeats.tsx";
import { RolesPart, rolesGiven, type Given } from "./said/RolesPart.tsx";
import { ALL_ALONG, useBegin } from "./useBegin.ts";

type Part = BeginEffectAsked["parts"][number];

/** What is begun with as it stands in the address: `project:ID` or `template:ID`, several by commas. */
function sourcesIn(text: string): string[] {
  return text.split(",").filter((each) => /^(project|template):.+$/.test(each));
}
const sourceOf = (text: string): Part["source"] => {
  const [kind, id = ""] = text.split(/:(.*)/s);
  return kind === "project" ? { project: id, branch: null } : { template: id };
};

interface ChoiceProps {
  readonly value: string;
  readonly label: string;
  readonly portfolio: Portfolio;
  readonly templates: readonly Template[];
  readonly onChoose: (value: string) => void;
}

/** A project or template to begin with. */
const Choice = ({ value, label, portfolio, templates, onChoose }: ChoiceProps) => (
  <select
    className="select select-sm w-96"
    aria-label={label}
    value={value}
    onChange={(event) => event.target.value !== "" && onChoose(event.target.value)}
  >
    <option value="">select a template or a project …</option>
    <optgroup label="Templates">
      {templates.map(({ id, name }) => (
        <option key={id} value={`template:${id}`}>
          {name}
        </option>
      ))}
    </optgroup>
    <optgroup label="Projects">
      {portfolio.projects.map(({ id, code, name }) => (
        <option key={id} value={`project:${id}`}>
          {code} {name}
        </option>
      ))}
    </optgroup>
  </select>
);

function From({ portfolio, templates }: { portfolio: Portfolio; templates: readonly Template[] }) {
  const [params, put] = useAddress();
  const sources = sourcesIn(params.get("with") ?? "");
  const [times, setTimes] = useState<readonly Times[]>([]);
  const [along, setAlong] = useState({ ...ALL_ALONG, people: "roles" as BeginEffectAsked["along"]["people"] });
  const [dated, setDated] = useState<Dated>({ by: "start", date: "" });
  const [given, setGiven] = useState<Given>({});
  const begin = useBegin();
  const setSources = (next: readonly string[]): void => {
    setTimes([]);
    setGiven({});
    put({ with: next.join(",") });
  };
  const date = wishOf(dated);
  const parts = sources.map((source, i): Part => ({ source: sourceOf(source), times: times[i] ?? {} }));
  const asked: BeginEffectAsked | null = parts.length === 0 || date === null ? null : { parts, along, date };
  const choice = { portfolio, templates };
  return (
    <>
      <ol className="flex flex-col gap-2">
        {sources.map((source, i) => (
          <li key={`${i} ${source}`} className="flex items-center gap-2">
            {i > 0 && <span className="muted text-sm">then</span>}
            <Choice
              {...choice}
              value={source}
              label={i === 0 ? "Begin with" : `Then, ${i + 1}`}
              onChoose={(next) => setSources(sources.map((each, j) => (j === i ? next : each)))}
            />
            <RemoveButton what={`part ${i + 1}`} onRemove={() => setSources(sources.filter((_, j) => j !== i))} />
          </li>
        ))}
        {sources.length === 0 && (
          <li>
            <Choice {...choice} value="" label="Begin with" onChoose={(next) => setSources([next])} />
          </li>
        )}
      </ol>
      {sources.length > 0 && sources.length < 10 && (
        <button type="button" className="btn btn-xs mt-2" onClick={() => setSources([...sources, sources.at(-1)!])}>
          <Plus size={12} aria-hidden="true" /> And then another, after it
        </button>
      )}
      <div className="flex flex-col gap-3 pt-4">
        <DateFields dated={dated} onChange={setDated} />
        <AlongFields
          along={along}
          onChange={(next) => {
            setAlong(next);
            // Other people are other roles.
            if (next.people !== along.people) setGiven({});
          }}
        />
      </div>
      <CalledForm
        isReady={asked !== null}
        isBusy={begin.isPending}
        error={begin.error}
        onBegin={(called) => asked !== null && begin.mutate({ ...asked, ...called, roles: rolesGiven(given) })}
      />
      <Outcome
        asked={asked}
        wanting={
          parts.length === 0 ? "Select what to begin with." : "Say when it begins, or by when it is to be finished."
        }
      >
        {(effect) => (
          <>
            <Repeats
              effect={effect}
              times={times}
              onTimes={(part, activity, count) =>
                setTimes(sources.map((_, i) => ({ ...times[i], ...(i === part ? { [activity]: count } : {}) })))
              }
            />
            <RolesPart roles={effect.roles} given={given} onGiven={setGiven} />
          </>
        )}
      </Outcome>
    </>
  );
}

/** A project begun with a template, with another project, or with several one after the other. */
export function FromPage() {
  const portfolio = useQuery(portfolioQuery);
  const templates = useQuery(templatesQuery);
  return (
    <div className="page">
      <h1 className="text-xl">Begin with a template or a project</h1>
      <p className="muted max-w-prose pb-3 text-sm">
        Its dates move to the new start, or back from the finish, by worked days; days off stay where they are.{" "}
        <Link to="/set-up/templates">Templates</Link> are made of projects and branches.
      </p>
      <Loaded query={portfolio}>
        {(house) => <Loaded query={templates}>{(list) => <From portfolio={house} templates={list} />}</Loaded>}
      </Loaded>
    </div>
  );
}
