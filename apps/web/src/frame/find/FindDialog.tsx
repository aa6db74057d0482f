import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Found, ProjectLook } from "@chronometra/contract";
import { useCombobox } from "downshift";
import { useEffect, useEffectEvent, useMemo, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { call } from "../../shared/session/api.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { useMe } from "../../shared/session/session.ts";
import { projectQuery } from "../../project/queries.ts";
import { projectIn } from "../places.ts";
import { commandsOf, type Command } from "./commands.ts";
import { tablesCommand } from "./pageTables.ts";
import { groupsFor, pagesFor, pinnedEntry, type Entry } from "./entries.ts";
import { followedQuery } from "../../talk/queries.ts";
import { opened, recentThings } from "./recent.ts";

const PAUSE_MILLISECONDS = 120;

/** A text once it has rested a moment. */
function useRested(text: string): string {
  const [rested, setRested] = useState(text);
  useEffect(() => {
    const timer = setTimeout(setRested, PAUSE_MILLISECONDS, text);
    return () => clearTimeout(timer);
  }, [text]);
  return rested;
}

const findQuery = (text: string) => ({
  queryKey: ["find", text],
  queryFn: ({ signal }: { signal: AbortSignal }): Promise<Found> => call("POST /api/find", { body: { text }, signal }),
  enabled: text !== "",
  staleTime: 10_000,
  placeholderData: keepPreviousData,
});

/** The project of the page in hand, as the pages know it. */
function useProjectInHand(): { id: string; code: string } | null {
  const client = useQueryClient();
  const at = projectIn(useLocation().pathname);
  const look = at === null ? undefined : client.getQueryData<ProjectLook>(projectQuery(at.project).queryKey);
  return look === undefined ? null : { id: look.id, code: look.code };
}

/** What one keeps at hand. */
function usePinned(): Entry[] {
  const { data } = useQuery(followedQuery);
  return useMemo(() => (data ?? []).filter(({ pinned }) => pinned).map(pinnedEntry), [data]);
}

function ReadAs({ found }: { found: Found | undefined }) {
  if (found === undefined || found.readAs.length === 0) return null;
  return (
    <p className="muted px-1 pt-1 text-sm">
      {found.readAs.map(({ typed, read }) => `“${typed}” is in no name; shown: ${read.join(", ")}`).join(". ")}
    </p>
  );
}

const KIND_WIDTH = "w-20 shrink-0";

/** What someone can do now, or why nothing is shown. */
function standsWords(found: number, words: string, waiting: boolean, unreachable: boolean): string {
  if (found > 0) return "Up and Down go through them, Enter opens, Escape closes.";
  if (words === "") return "Type the beginning of a name; what you open is listed here the next time.";
  if (waiting) return "Loading …";
  return unreachable
    ? "The server cannot be reached; pages, commands and what was opened lately are found all the same."
    : "Nothing bears these words. Try fewer of them, or only how they begin.";
}

function FoundEntry({ entry: { kind, name, aside } }: { entry: Entry }) {
  return (
    <>
      <span className={`muted text-xs ${KIND_WIDTH}`}>{kind}</span>
      <span className="min-w-40 truncate">{name}</span>
      <span className="muted ml-auto truncate text-sm">{aside}</span>
    </>
  );
}

interface Props {
  /** What was typed before it was there. */
  readonly begun?: { readonly current: string };
  readonly onClose: () => void;
}

/** What the page in hand does, and its tables as a file. */
function commandsHere(): Command[] {
  const page = document.querySelector("#content");
  return [...commandsOf(page), ...tablesCommand(page, document.title)];
}

/**
 * A field for words, and all that bears them: what was opened lately, what the page does, pages, projects and what is
 * in them.
 */
export function FindDialog({ begun, onClose }: Props) {
  const me = useMe();
  const go = useNavigate();
  const [text, setText] = useState("");
  // Read once it is on the page, not as it is drawn: keys come in between.
  useEffect(() => setText(begun?.current ?? ""), [begun]);
  const [entered, setEntered] = useState(false);
  const asked = useRested(text.trim());
  const query = useQuery(findQuery(asked));
  const project = useProjectInHand();
  // Read once, as it opens: the page beneath stands still meanwhile.
  const [commands] = useState(commandsHere);
  const [recent] = useState(recentThings);
  const pages = useMemo(() => pagesFor(me, project), [me, project]);
  const pinned = usePinned();
  const words = text.trim();
  // Without a network nothing is asked: what was found for the text before is not found for this one.
  const isStale = query.isPaused && (query.isPlaceholderData || query.data === undefined);
  const groups = useMemo(
    () =>
      groupsFor(me, words, { pinned, recent, commands, pages }, words === "" || isStale ? null : (query.data ?? null)),
    [me, words, pinned, recent, commands, pages, query.data, isStale],
  );
  const items = groups.flatMap(({ entries }) => entries);
  const waiting = words !== "" && (asked !== words || query.isFetching);
  const open = ({ to, run, name, aside, kind }: Entry): void => {
    onClose();
    if (to !== undefined) {
      if (kind !== "page") opened({ to, name, aside, kind });
      void go(to);
    } else if (run !== undefined) setTimeout(run);
  };
  const { getInputProps, getItemProps, getMenuProps, highlightedIndex } = useCombobox<Entry>({
    items,
    isOpen: true,
    inputValue: text,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    itemToString: (entry) => entry?.name ?? "",
    onSelectedItemChange: ({ selectedItem }) => {
      if (selectedItem !== null) open(selectedItem);
    },
  });
  // What stands there while an answer is on its way is not what was asked for: Enter waits for the answer.
  const openFirst = useEffectEvent(() => {
    if (items[0] !== undefined) open(items[0]);
  });
  useEffect(() => {
    if (entered && !waiting) openFirst();
  }, [entered, waiting]);
  let index = -1;
  return (
    <Dialog title="Find anything" atHead onClose={onClose}>
      <input
        className="input input-sm w-full"
        placeholder="A project, activity, milestone, person, watchlist, risk, page or command"
        spellCheck={false}
        {...getInputProps({
          autoFocus: true,
          "aria-label": "Find anything",
          onChange: (event) => {
            setEntered(false);
            setText(event.currentTarget.value);
          },
          onKeyDown: (event) => {
            // The list has nothing of its own to close; Escape is for the whole.
            if (event.key === "Escape") onClose();
            if (event.key !== "Enter" || !waiting) return;
            Object.assign(event.nativeEvent, { preventDownshiftDefault: true });
            setEntered(true);
          },
        })}
      />
      <ReadAs found={words === "" ? undefined : query.data} />
      {query.error !== null && <Failure error={query.error} />}
      <div className="mt-2 max-h-[60vh] overflow-auto" {...getMenuProps({ "aria-label": "Found" })}>
        {groups.map(({ name, entries }) => (
          <div key={name} role="group" aria-label={name}>
            <div aria-hidden="true" className="border-b rule pt-1.5 text-sm font-semibold">
              {name}
            </div>
            {entries.map((entry) => {
              index += 1;
              return (
                <div
                  key={entry.key}
                  className={`flex cursor-pointer items-baseline gap-2 px-1 py-0.5 ${index === highlightedIndex ? "bg-base-200 outline-2 -outline-offset-2 outline-accent" : ""}`}
                  {...getItemProps({ item: entry, index })}
                >
                  <FoundEntry entry={entry} />
                </div>
              );
            })}
          </div>
        ))}
      </div>
      <p role="status" className="muted pt-2 text-sm">
        {standsWords(items.length, words, waiting, isStale || query.error !== null)}{" "}
        <Link className="underline" to="/keys" onClick={onClose}>
          All keys
        </Link>
      </p>
    </Dialog>
  );
}
