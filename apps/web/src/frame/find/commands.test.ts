/** @jest-environment jsdom */
import { commandsOf } from "./commands.ts";

// A page of the tests has no layout; what is hidden is hidden by hand.
Object.defineProperty(HTMLElement.prototype, "offsetParent", {
  get(this: HTMLElement) {
    return this.closest("[hidden]") === null ? document.body : null;
  },
});

function page(markup: string): HTMLElement {
  document.body.innerHTML = `<main>${markup}</main>`;
  return document.body.firstElementChild as HTMLElement;
}
const names = (markup: string): string[] => commandsOf(page(markup)).map(({ name }) => name);

describe("the commands of a page", () => {
  it("are its buttons, menus and files, each by its name and once", () => {
    expect(
      names(`
        <button>Move
          data dates</button>
        <button aria-label="Fold the log">v</button>
        <button>Fold the log</button>
        <details><summary>Columns</summary><button>As at first</button></details>
        <a class="btn" href="/import">Bring a plan</a>
        <a href="/elsewhere">A plain link</a>
        <a download href="/f">A workbook</a>`),
    ).toEqual(["Move data dates", "Fold the log", "Columns", "As at first", "Bring a plan", "A workbook"]);
  });

  it("are none of what cannot be pressed, is hidden, has no name, or belongs to a row", () => {
    expect(
      names(`
        <button disabled>Disabled</button>
        <button hidden>Hidden</button>
        <button><svg></svg></button>
        <button>${"x".repeat(61)}</button>
        <table><tbody><tr><td><button>Of a row</button></td></tr></tbody></table>
        <ul><li><button>Of a line</button></li></ul>
        <nav><button>Of a place</button></nav>
        <dialog><button>Of a dialog</button></dialog>`),
    ).toEqual([]);
  });

  it("say of what they unfold more, where they stand in a group", () => {
    expect(
      names(`
        <div role="group" aria-label="Moved">
          <button aria-expanded="false">and 6 more</button>
          <button>With the reports that wait accepted</button>
        </div>
        <div role="group" aria-label="Cost"><button aria-expanded="false">and 6 more</button></div>`),
    ).toEqual(["Moved: and 6 more", "With the reports that wait accepted", "Cost: and 6 more"]);
  });

  it("are carried out as if they were pressed", () => {
    const main = page("<button>Once</button>");
    const pressed = jest.fn();
    main.querySelector("button")!.addEventListener("click", pressed);
    commandsOf(main)[0]!.run();
    expect(pressed).toHaveBeenCalledTimes(1);
    expect(commandsOf(null)).toEqual([]);
  });
});
