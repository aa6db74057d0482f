import { LONGEST_MESSAGE } from "@chronometra/contract";
import { useCombobox } from "downshift";
import { useLayoutEffect, useRef, useState } from "react";
import { useCompletion, type Candidate } from "./useCompletion.ts";
import { completed, termAt, type Term } from "./words.ts";

interface Props {
  readonly name: string;
  readonly people: readonly string[];
  readonly value: string;
  readonly onChange: (text: string) => void;
  /** Takes what was typed. */
  readonly onSend: () => void;
  readonly onGiveUp?: () => void;
  readonly autoFocus?: boolean;
}

const rowsFor = (text: string): number =>
  Math.max(2, Math.min(12, text.split("\n").length + Math.floor(text.length / 90)));

function Candidates({
  items,
  highlighted,
  itemProps,
}: {
  items: readonly Candidate[];
  highlighted: number;
  itemProps: (item: Candidate, index: number) => object;
}) {
  return items.map((item, index) => (
    <li
      key={item.key}
      className={`flex cursor-pointer gap-3 px-2 py-1 ${index === highlighted ? "bg-base-300" : ""}`}
      {...itemProps(item, index)}
    >
      <span className="truncate">{item.name}</span>
      <span className="muted ml-auto shrink-0 text-xs">{item.aside}</span>
    </li>
  ));
}

/** Where something is written: `@` calls somebody, `#` something by its name, Ctrl+Enter sends. */
export function Composer({ name, people, value, onChange, onSend, onGiveUp, autoFocus = false }: Props) {
  const field = useRef<HTMLTextAreaElement>(null);
  const [term, setTerm] = useState<Term | null>(null);
  const caret = useRef<number | null>(null);
  const items = useCompletion(term, people);
  const isOpen = term !== null && items.length > 0;
  // The caret stands where a name ended once that is in the field.
  useLayoutEffect(() => {
    if (caret.current !== null) field.current?.setSelectionRange(caret.current, caret.current);
    caret.current = null;
  }, [value]);
  const take = (item: Candidate): void => {
    const next = completed(value, term!, item.by);
    caret.current = next.caret;
    setTerm(null);
    onChange(next.text);
  };
  const { getInputProps, getItemProps, getMenuProps, highlightedIndex } = useCombobox<Candidate>({
    items: [...items],
    isOpen,
    inputValue: value,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    itemToString: (item) => item?.name ?? "",
    onSelectedItemChange: ({ selectedItem }) => {
      if (selectedItem !== null) take(selectedItem);
    },
  });
  const look = ({ value: text, selectionStart }: HTMLTextAreaElement): void => setTerm(termAt(text, selectionStart));
  return (
    <div className="relative">
      <textarea
        className="textarea min-h-0 w-full px-2 py-1 leading-snug"
        rows={rowsFor(value)}
        maxLength={LONGEST_MESSAGE}
        placeholder="Say what there is to know; @ calls somebody, # something by its name"
        {...getInputProps({
          // The combobox knows inputs only; what it asks of one a text area does as well.
          ref: field as never,
          autoFocus,
          "aria-label": name,
          onChange: ({ currentTarget }) => {
            const area = currentTarget as unknown as HTMLTextAreaElement;
            onChange(area.value);
            look(area);
          },
          onBlur: () => setTerm(null),
          onKeyDown: (event) => {
            const skip = (): void => {
              (event.nativeEvent as KeyboardEvent & { preventDownshiftDefault?: boolean }).preventDownshiftDefault =
                true;
            };
            if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
              skip();
              event.preventDefault();
              onSend();
            } else if (event.key === "Escape") {
              skip();
              if (isOpen) setTerm(null);
              else if (onGiveUp === undefined) return;
              else onGiveUp();
              event.preventDefault();
              event.stopPropagation();
            } else if (!isOpen) skip();
            else if (event.key === "Tab" && items[highlightedIndex] !== undefined) {
              event.preventDefault();
              take(items[highlightedIndex]!);
            } else if (["Home", "End", "PageUp", "PageDown"].includes(event.key)) skip();
          },
        })}
      />
      <ul
        {...getMenuProps({ "aria-label": "Who or what is meant" })}
        className={`absolute z-10 w-full max-w-lg border rule bg-base-100 text-sm shadow ${isOpen ? "" : "hidden"}`}
      >
        {isOpen && (
          <Candidates
            items={items}
            highlighted={highlightedIndex}
            itemProps={(item, index) => getItemProps({ item, index })}
          />
        )}
      </ul>
    </div>
  );
}
