import {
  GROUP_SECTION_WORDS,
  GROUP_SECTIONS,
  REPORT_SECTIONS,
  SECTION_WORDS,
  type ReportLayout,
} from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useState } from "react";
import { call } from "../../shared/session/api.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { ToolButton } from "../../shared/fields/ToolButton.tsx";
import { movedBy } from "../../shared/fields/movedBy.ts";
import { toast } from "../../shared/messages/toast.ts";
import { holds, useMe } from "../../shared/session/session.ts";
import { reportLayoutQuery } from "../queries.ts";

/** The parts of one kind of report: all that there are, in their order, and which of them are shown. */
interface Parts<T extends string> {
  readonly order: readonly T[];
  readonly shown: ReadonlySet<T>;
}

/** Those that are shown first, the others after them. */
const partsOf = <T extends string>(shown: readonly T[], all: readonly T[]): Parts<T> => ({
  order: [...shown, ...all.filter((each) => !shown.includes(each))],
  shown: new Set(shown),
});

const shownOf = <T extends string>({ order, shown }: Parts<T>): T[] => order.filter((each) => shown.has(each));

interface PartsListProps<T extends string> {
  readonly legend: string;
  readonly words: Readonly<Record<T, string>>;
  readonly parts: Parts<T>;
  readonly onChange: (parts: Parts<T>) => void;
}

/** Parts to tick and to put in order. */
function PartsList<T extends string>({ legend, words, parts: { order, shown }, onChange }: PartsListProps<T>) {
  const toggle = (section: T): void => {
    const next = new Set(shown);
    if (!next.delete(section)) next.add(section);
    onChange({ order, shown: next });
  };
  return (
    <fieldset className="mt-3">
      <legend className="font-medium">{legend}</legend>
      <ol>
        {order.map((section, i) => (
          <li key={section} className="flex items-center gap-2">
            <label className="flex min-h-7 flex-1 items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={shown.has(section)}
                onChange={() => toggle(section)}
              />
              {words[section]}
            </label>
            <ToolButton
              icon={ArrowUp}
              name={`${words[section]} earlier`}
              disabled={i === 0}
              onClick={() => onChange({ order: movedBy(order, i, -1), shown })}
            />
            <ToolButton
              icon={ArrowDown}
              name={`${words[section]} later`}
              disabled={i === order.length - 1}
              onClick={() => onChange({ order: movedBy(order, i, 1), shown })}
            />
          </li>
        ))}
      </ol>
      {shown.size === 0 && <p className="adverse text-sm">Select at least one part.</p>}
    </fieldset>
  );
}

interface Props {
  readonly of: string;
  readonly known: ReportLayout;
  readonly onClose: () => void;
}

function Layout({ of, known, onClose }: Props) {
  const client = useQueryClient();
  const [group, setGroup] = useState(partsOf(known.groupSections, GROUP_SECTIONS));
  const [projects, setProjects] = useState(partsOf(known.sections, REPORT_SECTIONS));
  const write = useMutation({
    mutationFn: (body: Pick<ReportLayout, "groupSections"> & { sections: ReportLayout["sections"] | null }) =>
      call("PUT /api/status-reports/:of/layout", { params: { of }, body }),
    onSuccess: () => {
      toast("Reports that are issued from now on are laid out so.");
      void client.invalidateQueries({ queryKey: ["statusReport"] });
      onClose();
    },
  });
  return (
    <Dialog title="Parts of the reports" onClose={onClose}>
      <p className="muted text-sm">
        {known.from === "own"
          ? "Laid out here, for this group and the groups below it."
          : known.from === null
            ? "As it comes; no group says otherwise."
            : `As ${known.from} says.`}
      </p>
      <div className="grid gap-x-8 sm:grid-cols-2">
        <PartsList legend="The group's own" words={GROUP_SECTION_WORDS} parts={group} onChange={setGroup} />
        <PartsList legend="Of each project" words={SECTION_WORDS} parts={projects} onChange={setProjects} />
      </div>
      {write.error !== null && <Failure error={write.error} />}
      <div className="mt-3 flex gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={write.isPending || group.shown.size === 0 || projects.shown.size === 0}
          onClick={() => write.mutate({ sections: shownOf(projects), groupSections: shownOf(group) })}
        >
          Save
        </button>
        {known.from === "own" && (
          <button
            type="button"
            className="btn btn-sm"
            disabled={write.isPending}
            onClick={() => write.mutate({ sections: null, groupSections: [...GROUP_SECTIONS] })}
          >
            Take it from above
          </button>
        )}
        <button type="button" className="btn btn-sm" onClick={onClose}>
          Cancel
        </button>
      </div>
    </Dialog>
  );
}

/** Which parts the reports of a group and of its projects have, for a controller to lay out. */
export function LayoutDialog({ of }: { of: string }) {
  const [isOpen, setOpen] = useState(false);
  const layout = useQuery({ ...reportLayoutQuery(of), enabled: isOpen });
  if (!holds(useMe(), "controller")) return null;
  return (
    <>
      <button type="button" className="btn btn-sm" onClick={() => setOpen(true)}>
        Parts …
      </button>
      {isOpen && layout.data !== undefined && <Layout of={of} known={layout.data} onClose={() => setOpen(false)} />}
      {isOpen && layout.error !== null && <Failure error={layout.error} />}
    </>
  );
}
