import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { bareCall } from "../../shared/session/api.ts";
import { sampleOf, type ApiCall, type OpenApi } from "./openApi.ts";

/** So much of an answer is shown. */
const SHOWN = 20_000;

/** What came back. */
interface Answer {
  readonly status: string;
  readonly kind: string;
  readonly milliseconds: number;
  readonly text: string;
}

interface Asked {
  readonly values: Readonly<Record<string, string>>;
  readonly body: string;
  readonly bearer: string;
}

/** The address with its parts put in, and what narrows the answer. */
function addressOf({ path, parameters }: ApiCall, values: Asked["values"]): string {
  const address = path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(values[name] ?? ""));
  const query = new URLSearchParams(
    parameters.filter((each) => each.in === "query" && values[each.name]).map(({ name }) => [name, values[name]!]),
  ).toString();
  return query === "" ? address : `${address}?${query}`;
}

function pretty(text: string, kind: string): string {
  if (!kind.includes("json")) return text;
  try {
    return JSON.stringify(JSON.parse(text), null, 2);
  } catch {
    return text;
  }
}

async function make(chosen: ApiCall, { values, body, bearer }: Asked): Promise<Answer> {
  const began = performance.now();
  const response = await bareCall(chosen.method, addressOf(chosen, values), {
    ...(chosen.requestBody === undefined ? {} : { body }),
    ...(bearer === "" ? {} : { bearer }),
  });
  const kind = response.headers.get("content-type") ?? "";
  const isText = /json|text|xml|calendar/.test(kind);
  const text = isText ? await response.text() : `${(await response.blob()).size} bytes`;
  return {
    status: `${response.status} ${response.statusText}`.trim(),
    ...{ kind, milliseconds: Math.round(performance.now() - began), text: pretty(text, kind) },
  };
}

function AnswerPart({ answer: { status, kind, milliseconds, text } }: { answer: Answer }) {
  return (
    <div role="status" className="pt-2">
      <p>
        <span className="font-semibold">{status}</span>{" "}
        <span className="muted">
          {kind}, {milliseconds} ms
        </span>
      </p>
      <pre className="max-h-96 overflow-auto border-l-2 rule pl-3 text-xs" tabIndex={0}>
        {text.slice(0, SHOWN)}
        {text.length > SHOWN && `\n... and ${text.length - SHOWN} characters more`}
      </pre>
    </div>
  );
}

/** What a call takes besides its body, each in a field of its own. */
function Fields({ chosen, asked, onAsked }: { chosen: ApiCall; asked: Asked; onAsked: (asked: Asked) => void }) {
  const own = chosen.parameters.filter(({ $ref }) => $ref === undefined);
  return own.map(({ name, in: where, description }) => (
    <label key={name} className="flex flex-wrap items-center gap-2">
      <span className="figure w-32 shrink-0">{name}</span>
      <input
        className="input input-sm w-72"
        required={where === "path"}
        value={asked.values[name] ?? ""}
        onChange={({ target }) => onAsked({ ...asked, values: { ...asked.values, [name]: target.value } })}
      />
      <span className="muted">
        {description?.replaceAll("`", "") ?? (where === "path" ? "a part of the address" : "")}
      </span>
    </label>
  ));
}

/** Makes a call as whoever is signed in, or as another system by its token, and shows what comes back. */
export function TryCall({ document, chosen }: { document: OpenApi; chosen: ApiCall }) {
  const json = chosen.requestBody?.content["application/json"];
  const isOfSystems = chosen.security.some((each) => "system" in each);
  const [asked, setAsked] = useState<Asked>(() => ({
    values: {},
    body: json === undefined ? "" : JSON.stringify(sampleOf(document, json.schema), null, 2),
    bearer: "",
  }));
  const making = useMutation({ mutationFn: () => make(chosen, asked) });
  if (chosen.requestBody !== undefined && json === undefined)
    return <p className="muted">It takes a file, which cannot be tried here.</p>;
  return (
    <form
      aria-label="Try it"
      className="flex flex-col gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        making.mutate();
      }}
    >
      <Fields chosen={chosen} asked={asked} onAsked={setAsked} />
      {isOfSystems && (
        <label className="flex items-center gap-2">
          <span className="figure w-32 shrink-0">token</span>
          <input
            className="input input-sm w-72"
            type="password"
            autoComplete="off"
            required
            value={asked.bearer}
            onChange={({ target }) => setAsked({ ...asked, bearer: target.value })}
          />
          <span className="muted">of another system, from Other systems</span>
        </label>
      )}
      {json !== undefined && (
        <textarea
          className="textarea figure min-h-32 w-full text-xs"
          aria-label="What is sent, as JSON"
          spellCheck={false}
          value={asked.body}
          onChange={({ target }) => setAsked({ ...asked, body: target.value })}
        />
      )}
      <div className="flex items-center gap-3">
        <button className="btn btn-sm" disabled={making.isPending}>
          Make this call
        </button>
        {chosen.method !== "GET" && (
          <span className="undecided">It does what it says: what it changes is changed for everyone.</span>
        )}
      </div>
      {making.error !== null && <Failure error={making.error} />}
      {making.data !== undefined && <AnswerPart answer={making.data} />}
    </form>
  );
}
