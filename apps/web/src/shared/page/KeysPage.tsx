const KEYS: readonly { readonly place: string; readonly keys: readonly (readonly [keys: string, does: string])[] }[] = [
  {
    place: "Everywhere",
    keys: [
      ["Ctrl + K", "find anything: projects, activities, people, pages, and what the page can do"],
      ["Escape", "close what stands before the page"],
    ],
  },
  {
    place: "In the plan",
    keys: [
      ["Arrows, Home, End, Page Up, Page Down", "go from cell to cell"],
      ["Ctrl + arrow", "go to the end of a block"],
      ["Shift + arrow", "select several cells"],
      ["Shift + Space", "select whole rows"],
      ["Ctrl + A", "select everything"],
      ["any letter, Enter, F2", "change the cell"],
      ["Enter, Tab", "take what was typed, and go on below or beside"],
      ["Escape", "leave the cell as it was; give up what was refused"],
      ["Delete", "empty the selected cells"],
      ["Ctrl + Delete", "remove the selected rows"],
      ["Ctrl + Enter", "add a row below"],
      ["Alt + . and Alt + ,", "one level deeper, one level out"],
      ["Alt + Up and Alt + Down", "move the selected rows"],
      ["Alt + Left and Alt + Right", "fold and unfold a branch"],
      ["Ctrl + D", "fill down"],
      ["Ctrl + C, Ctrl + X, Ctrl + V", "copy, cut and paste cells or whole rows"],
      ["Ctrl + Z, Ctrl + Y", "undo and redo"],
      ["Ctrl + F", "find and replace"],
      ["Alt + Enter", "all about the activity; Escape goes back to the plan"],
    ],
  },
  {
    place: "In the week",
    keys: [
      ["Enter, Down and Up", "take the hours, and go to the activity below or above"],
      ["Escape", "put back what was there"],
    ],
  },
  {
    place: "In every table",
    keys: [
      ["?", "what the figure means, and how it was computed"],
      ["Arrows", "go from cell to cell, to the link or field in it"],
    ],
  },
];

/** What can be done from the keyboard, by place. */
export function KeysPage() {
  return (
    <div className="page max-w-3xl">
      <h1 className="text-lg">Keys</h1>
      {KEYS.map(({ place, keys }) => (
        <section key={place} className="pt-3">
          <h2 className="text-base">{place}</h2>
          <table className="ledger" aria-label={place} tabIndex={0}>
            <thead>
              <tr>
                <th>Keys</th>
                <th>What they do</th>
              </tr>
            </thead>
            <tbody>
              {keys.map(([pressed, does]) => (
                <tr key={pressed}>
                  <td className="w-72">{pressed}</td>
                  <td>{does}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </div>
  );
}
