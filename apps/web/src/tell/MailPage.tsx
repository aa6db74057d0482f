import { LONGEST_MESSAGE, type Mail } from "@chronometra/contract";
import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { holds, useMe } from "../shared/session/session.ts";
import { momentWords } from "../shared/words/words.ts";

const mailQuery = queryOptions({ queryKey: ["mail"], queryFn: () => call("GET /api/mail") });

/** What became of a message on its way out; nothing where it only lies here. */
function Fate({ mail: { id, state, tries, why } }: { mail: Mail }) {
  const client = useQueryClient();
  const again = useMutation({
    mutationFn: () => call("POST /api/mail/:mail/again", { params: { mail: id } }),
    onSettled: () => client.invalidateQueries({ queryKey: mailQuery.queryKey }),
  });
  if (state === "kept") return null;
  if (state === "sent") return <p className="favourable text-sm">✓ Sent</p>;
  if (state !== "failed")
    return (
      <p className="undecided text-sm">
        {tries === 0 ? "Waits to be sent" : `Tried ${tries === 1 ? "once" : `${tries} times`}; it is tried again`}
        {why !== null && `. The mail server: ${why}`}
      </p>
    );
  return (
    <p className="adverse text-sm">
      ✗ Not sent{why !== null && `: ${why}`}{" "}
      <button type="button" className="btn btn-xs" disabled={again.isPending} onClick={() => again.mutate()}>
        Send again
      </button>
      {again.error !== null && <span role="alert"> {again.error.message}</span>}
    </p>
  );
}

/** Answers a message where it lies, as by mail: what is written goes to where it was said. */
function AnswerForm({ mail: { id, subject } }: { mail: Mail }) {
  const client = useQueryClient();
  const [text, setText] = useState<string | null>(null);
  const send = useMutation({
    mutationFn: (said: string) => call("POST /api/mail/:mail/answer", { params: { mail: id }, body: { text: said } }),
    onSuccess: () => {
      setText(null);
      toast("Answered: it stands where it was asked.");
      for (const queryKey of [["talk"], ["talks"], ["inbox"]]) void client.invalidateQueries({ queryKey });
    },
  });
  if (text === null)
    return (
      <button type="button" className="btn btn-xs ml-3" onClick={() => setText("")}>
        Answer
      </button>
    );
  return (
    <form
      className="max-w-prose pt-1"
      onSubmit={(event) => {
        event.preventDefault();
        send.mutate(text);
      }}
    >
      <textarea
        className="textarea w-full"
        rows={3}
        aria-label={`Your answer to ${subject}`}
        autoFocus
        maxLength={LONGEST_MESSAGE}
        value={text}
        onChange={({ target }) => setText(target.value)}
      />
      {send.error !== null && (
        <p role="alert" className="adverse text-sm">
          Not sent: {send.error.message}
        </p>
      )}
      <p className="flex gap-2 pt-1">
        <button type="submit" className="btn btn-xs btn-primary" disabled={text.trim() === "" || send.isPending}>
          Send
        </button>
        <button type="button" className="btn btn-xs" onClick={() => setText(null)}>
          Cancel
        </button>
      </p>
    </form>
  );
}

function Letter({ mail, all }: { mail: Mail; all: boolean }) {
  return (
    <li className="border-b rule py-2">
      <h2 className="font-sans text-[15px] font-semibold">{mail.subject}</h2>
      <p className="muted text-sm">
        {momentWords(mail.sentAt)}
        {all && ` to ${mail.to}`}
      </p>
      {all && <Fate mail={mail} />}
      <p className="mt-1 max-w-prose whitespace-pre-line">{mail.body}</p>
      {mail.link !== null && (
        <Link className="text-sm underline" to={mail.link}>
          Open the page
        </Link>
      )}
      {mail.answers && <AnswerForm mail={mail} />}
    </li>
  );
}

function Letters({ mails, all }: { mails: readonly Mail[]; all: boolean }) {
  const [find, setFind] = useState("");
  if (mails.length === 0)
    return (
      <p className="muted mt-2">No mail yet. Reminders, and word that something of yours can begin, arrive here.</p>
    );
  const wanted = find.trim().toLocaleLowerCase();
  const found = mails.filter(({ subject, body, to }) =>
    `${subject}\n${body}\n${to}`.toLocaleLowerCase().includes(wanted),
  );
  return (
    <>
      <input
        type="search"
        className="input input-sm mt-2 w-64"
        placeholder="Find"
        aria-label="Find in the mail"
        value={find}
        onChange={(event) => setFind(event.target.value)}
      />
      {found.length === 0 ? (
        <p className="muted mt-2">
          None of the {mails.length} has “{find.trim()}” in it.
        </p>
      ) : (
        <ul>
          {found.map((mail) => (
            <Letter key={mail.id} mail={mail} all={all} />
          ))}
        </ul>
      )}
    </>
  );
}

/** The mailbox that ships with the application: what it sent, for whoever it was sent to. */
export function MailPage() {
  const all = holds(useMe(), "administrator");
  const query = useQuery(mailQuery);
  return (
    <div className="page max-w-4xl">
      <h1 className="text-xl">{all ? "All mail" : "Your mail"}</h1>
      <Loaded query={query}>{(mails) => <Letters mails={mails} all={all} />}</Loaded>
    </div>
  );
}
