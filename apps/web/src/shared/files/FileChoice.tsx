import { FileDown } from "lucide-react";
import { toast } from "../messages/toast.ts";
import type { FileForm } from "./saveFile.ts";

const WORDS: Readonly<Record<FileForm, string>> = {
  xlsx: "Workbook (.xlsx)",
  csv: "CSV file (.csv)",
  ics: "Calendar (.ics)",
};

interface Props {
  readonly forms: readonly FileForm[];
  readonly onSave: (form: FileForm) => Promise<void>;
}

/** As which file something is kept. */
export function FileChoice({ forms, onSave }: Props) {
  return (
    <details className="relative">
      <summary className="btn btn-ghost btn-sm list-none">
        <FileDown size={14} aria-hidden="true" /> Export
      </summary>
      <ul className="absolute right-0 z-30 mt-1 w-48 border rule bg-base-100 py-1">
        {forms.map((form) => (
          <li key={form}>
            <button
              type="button"
              className="block w-full cursor-pointer px-3 py-1 text-left hover:bg-base-200"
              onClick={() =>
                void onSave(form).catch((error: unknown) =>
                  toast.error(error instanceof Error ? error.message : String(error)),
                )
              }
            >
              {WORDS[form]}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
