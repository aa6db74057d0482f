import type { BeginEffectAsked, BegunEffect } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { registerQuery } from "../resources/stored/queries.ts";
import { CalledForm } from "./said/CalledForm.tsx";
import { CurrencyField, isCurrency } from "./said/CurrencyField.tsx";
import { DateFields, wishOf, type Dated } from "./said/DateFields.tsx";
import { Outcome } from "./seen/Outcome.tsx";
import { beginEffectQuery } from "./seen/queries.ts";
import { RolesPart, rolesGiven, type Given } from "./said/RolesPart.tsx";
import { minutesOf, newStep, stepFault, StepRows, typedSteps, type TypedStep } from "./StepRows.tsx";
import { ALL_ALONG, useBegin } from "./useBegin.ts";

const FIRST_LINES = 4;
const linesOf = (text: string): string[] =>
  text
    .split("\n")
    .map((line) => line.trim())
    .filter((line) => line !== "");

/** What is asked of the server, once enough is said. */
function askedOf(steps: readonly TypedStep[], currency: string, dated: Dated): BeginEffectAsked | null {
  const typed = typedSteps(steps);
  const date = wishOf(dated);
  if (typed.length === 0 || date === null || !isCurrency(currency) || typed.some((step) => stepFault(step) !== null))
    return null;
  const said = typed.map((step) => ({
    name: step.name.trim(),
    minutes: minutesOf(step)!,
    after: step.after,
    who: step.who.trim(),
  }));
  return { parts: [{ source: { currency, steps: said }, times: {} }], along: ALL_ALONG, date };
}

/** People of the register who are called as someone was typed, in the roles that stand for them. */
function takenByName(
  roles: BegunEffect["roles"],
  people: readonly { readonly id: string; readonly name: string }[],
  given: Given,
): Given {
  const byName = new Map(people.map(({ id, name }) => [name.toLowerCase(), id]));
  const found = roles.flatMap(({ id, name }) => {
    const person = byName.get(name.toLowerCase());
    return person === undefined || id in given ? [] : [[id, person] as const];
  });
  return { ...given, ...Object.fromEntries(found) };
}

/** A project begun in three steps: what it is for, what has to be done, when. */
export function StepsPage() {
  const people = useQuery(registerQuery).data?.people.map(({ row }) => row) ?? [];
  const [purpose, setPurpose] = useState("");
  const [outcomes, setOutcomes] = useState("");
  const [steps, setSteps] = useState<TypedStep[]>(() => Array.from({ length: FIRST_LINES }, newStep));
  const [dated, setDated] = useState<Dated>({ by: "start", date: "" });
  const [currency, setCurrency] = useState("EUR");
  const [given, setGiven] = useState<Given>({});
  const begin = useBegin();
  const asked = askedOf(steps, currency, dated);
  const roles = useQuery(beginEffectQuery(asked)).data?.roles ?? [];
  const taken = takenByName(roles, people, given);
  return (
    <div className="page">
      <h1 className="pb-3 text-xl">Begin in three steps</h1>
      <section>
        <h2 className="text-base">1. What it is for</h2>
        <div className="grid max-w-5xl grid-cols-2 gap-4">
          <label className="flex flex-col text-sm">
            Purpose
            <textarea
              className="textarea textarea-sm w-full"
              rows={3}
              maxLength={8000}
              placeholder="what would be missing without it"
              value={purpose}
              onChange={(event) => setPurpose(event.target.value)}
            />
          </label>
          <label className="flex flex-col text-sm">
            What comes out, a line each
            <textarea
              className="textarea textarea-sm w-full"
              rows={3}
              placeholder={"twelve signs at the lock\na list of where they stand"}
              value={outcomes}
              onChange={(event) => setOutcomes(event.target.value)}
            />
          </label>
        </div>
      </section>
      <section className="pt-4">
        <h2 className="text-base">2. What has to be done, and who does it</h2>
        <StepRows steps={steps} people={people.map(({ name }) => name)} onChange={setSteps} />
      </section>
      <section className="pt-4">
        <h2 className="pb-1 text-base">3. When, and what it is called</h2>
        <DateFields dated={dated} onChange={setDated} />
        <CalledForm
          isReady={asked !== null}
          isBusy={begin.isPending}
          error={begin.error}
          onBegin={(called) =>
            asked !== null &&
            begin.mutate({
              ...asked,
              ...called,
              roles: rolesGiven(taken),
              purpose,
              deliverables: linesOf(outcomes),
            })
          }
        >
          <CurrencyField value={currency} onChange={setCurrency} />
        </CalledForm>
      </section>
      <Outcome asked={asked} wanting="Say one thing that has to be done with how long it takes, and when it begins.">
        {() => <RolesPart roles={roles} given={taken} onGiven={setGiven} />}
      </Outcome>
    </div>
  );
}
