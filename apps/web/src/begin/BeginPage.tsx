import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { DateField } from "../shared/fields/DateField.tsx";
import { call } from "../shared/session/api.ts";
import { CalledForm, type Called } from "./said/CalledForm.tsx";
import { CurrencyField, isCurrency } from "./said/CurrencyField.tsx";

const WAYS: readonly (readonly [to: string, name: string, words: string])[] = [
  [
    "/begin/steps",
    "In three steps",
    "What it is for, what has to be done, when. For whoever was never trained in planning.",
  ],
  [
    "/begin/from",
    "With a template or a project",
    "Its activities, links and roles on new dates; several one after the other.",
  ],
  [
    "/import",
    "With a file",
    "A spreadsheet as people keep their plans, or a plan bundle; what is running comes with its progress.",
  ],
  ["/begin/by-hand", "Without a plan", "Stages or months with a budget, milestones, and percent by hand."],
];

/** A project begun with nothing in it, to be typed. */
function Empty() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [start, setStart] = useState("");
  const [currency, setCurrency] = useState("EUR");
  const begin = useMutation({
    mutationFn: (called: Called) => call("POST /api/projects", { body: { ...called, currency, start } }),
    onSuccess: ({ project }) => {
      void client.invalidateQueries();
      void navigate(`/projects/${project}/plan`);
    },
  });
  return (
    <section className="pt-6">
      <h2 className="text-base">Or with an empty plan, to be typed</h2>
      <CalledForm
        isReady={start !== "" && isCurrency(currency)}
        isBusy={begin.isPending}
        error={begin.error}
        onBegin={(called) => begin.mutate(called)}
      >
        <div className="flex flex-col text-sm">
          Starts
          <DateField label="Starts" small value={start} onDate={setStart} />
        </div>
        <CurrencyField value={currency} onChange={setCurrency} />
      </CalledForm>
    </section>
  );
}

/** The ways in which a project begins. */
export const BeginPage = () => (
  <div className="page">
    <h1 className="pb-2 text-xl">Begin a project</h1>
    <ul className="max-w-3xl">
      {WAYS.map(([to, name, words]) => (
        <li key={to} className="border-b rule py-2">
          <Link to={to} className="text-base">
            {name}
          </Link>
          <p className="muted text-sm">{words}</p>
        </li>
      ))}
    </ul>
    <Empty />
  </div>
);
