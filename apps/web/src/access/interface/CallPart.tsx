import { shapeOf, type ApiCall, type OpenApi, type Schema } from "./openApi.ts";
import { TryCall } from "./TryCall.tsx";

/** What is sent or answered: of which kind, and what it looks like. */
function Shape({ document, content }: { document: OpenApi; content: Readonly<Record<string, { schema: Schema }>> }) {
  return Object.entries(content).map(([kind, { schema }]) => (
    <div key={kind}>
      <p className="muted">{kind}</p>
      {kind === "application/json" && (
        <pre className="max-h-80 overflow-auto border-l-2 rule pl-3 text-xs" tabIndex={0}>
          {shapeOf(document, schema)}
        </pre>
      )}
    </div>
  ));
}

/** One call: what it is for, whom it is open to, what it takes and answers; and it can be made. */
export function CallPart({ document, chosen }: { document: OpenApi; chosen: ApiCall }) {
  const { method, path, summary, description, requestBody, responses } = chosen;
  return (
    <article aria-label={`${method} ${path}`}>
      <h2 className="break-all text-lg">
        <span className="figure">{method}</span> {path}
      </h2>
      <p>{summary}.</p>
      <p className="muted pb-2">{description.replaceAll("`", "")}</p>
      <TryCall document={document} chosen={chosen} />
      {requestBody !== undefined && (
        <>
          <h3 className="pt-3 text-base">Takes</h3>
          <Shape document={document} content={requestBody.content} />
        </>
      )}
      <h3 className="pt-3 text-base">Answers</h3>
      <Shape document={document} content={responses[200].content} />
    </article>
  );
}
