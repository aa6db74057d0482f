/** @jest-environment jsdom */
import { act, render, screen } from "@testing-library/react";
import { ListInSight } from "./ListInSight.tsx";

const ROW = 30;
const SIGHT = 300;
/** How far what scrolls has been scrolled. */
let scrolled = 0;

// There is no layout here: rows are of one height, and what scrolls shows ten of them.
beforeAll(() => {
  const gives = (name: string, of: (element: HTMLElement) => number): void =>
    void Object.defineProperty(HTMLElement.prototype, name, {
      configurable: true,
      get(this: HTMLElement) {
        return of(this);
      },
    });
  const height = ({ tagName }: HTMLElement): number => (tagName === "LI" ? ROW : SIGHT);
  gives("offsetHeight", height);
  gives("clientHeight", height);
  gives("scrollHeight", () => ROW * 500);
  HTMLElement.prototype.getBoundingClientRect = function rect(this: HTMLElement) {
    return { top: this.tagName === "UL" ? -scrolled : 0, height: ROW } as DOMRect;
  };
});

interface Shown {
  readonly count: number;
  readonly keeps?: string | null;
}

const Page = ({ count, keeps = null }: Shown) => (
  <div data-testid="scroller" style={{ overflowY: "auto", height: SIGHT }}>
    <ul>
      <ListInSight
        rows={Array.from({ length: count }, (_, i) => `row ${i}`)}
        keyOf={(row) => row}
        height={ROW}
        keeps={keeps}
      >
        {(row, place) => (
          <li {...place}>
            <button type="button">{row}</button>
          </li>
        )}
      </ListInSight>
    </ul>
  </div>
);
const drawn = (): number[] => screen.getAllByRole("button").map(({ textContent }) => Number(textContent!.slice(4)));

async function scrollTo(top: number): Promise<void> {
  const scroller = screen.getByTestId("scroller");
  await act(async () => {
    scrolled = top;
    scroller.scrollTop = top;
    scroller.dispatchEvent(new Event("scroll"));
    await new Promise((done) => setTimeout(done, 50));
  });
}
beforeEach(() => void (scrolled = 0));

describe("a list in sight", () => {
  it("draws all of a short one", () => {
    render(<Page count={10} />);
    expect(drawn()).toHaveLength(10);
  });

  it("draws what is in sight and a little around it, and keeps the room of the rest", async () => {
    const { container } = render(<Page count={500} />);
    expect(drawn().at(0)).toBe(0);
    expect(drawn().length).toBeLessThan(30);
    await scrollTo(200 * ROW);
    expect(drawn()).toEqual(expect.arrayContaining([200, 205, 209]));
    const row = screen.getByRole("button", { name: "row 205" }).closest("li")!;
    expect([row.getAttribute("aria-posinset"), row.getAttribute("aria-setsize")]).toEqual(["206", "500"]);
    expect(drawn()).not.toContain(0);
    const rooms = [...container.querySelectorAll<HTMLElement>('li[role="presentation"]')];
    const room = rooms.reduce((sum, { style }) => sum + parseFloat(style.height), 0);
    expect(room + drawn().length * ROW).toBe(500 * ROW);
  });

  it("draws the row with the keyboard and the one asked for wherever they are", async () => {
    render(<Page count={500} keeps="row 450" />);
    expect(drawn()).toContain(450);
    act(() => screen.getByRole("button", { name: "row 3" }).focus());
    await scrollTo(200 * ROW);
    expect(drawn().filter((at) => at < 100 || at > 400)).toEqual([3, 450]);
    expect(document.activeElement?.textContent).toBe("row 3");
  });

  it("is whole on paper", () => {
    render(<Page count={500} />);
    act(() => void dispatchEvent(new Event("beforeprint")));
    expect(drawn()).toHaveLength(500);
    act(() => void dispatchEvent(new Event("afterprint")));
    expect(drawn().length).toBeLessThan(30);
  });
});
