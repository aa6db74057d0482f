/** @jest-environment jsdom */
import { tablesCommand, tablesOf } from "./pageTables.ts";

function page(markup: string): HTMLElement {
  document.body.innerHTML = `<main>${markup}</main>`;
  return document.body.firstElementChild as HTMLElement;
}

describe("the tables of a page", () => {
  it("are what they say: numbers, dates, fields; what is pressed or only heard is left out, and empty columns", () => {
    const [found, ...others] = tablesOf(
      page(`
        <h2>Approvals</h2>
        <table>
          <thead><tr><th><button>Name<span aria-hidden="true">↑</span></button></th><th>Finish</th><th>Cost</th><th>Rate</th><th><span class="sr-only">Tools</span></th></tr></thead>
          <tbody>
            <tr><td>Dig <b>deep</b><span class="sr-only"> heard</span></td><td>28 Nov 2026</td><td>1\u202f234\u202f567.50</td><td><input value="12.5"></td><td><button class="btn">Remove</button></td></tr>
            <tr><td colspan="2">Branch</td><td>−3</td><td><select><option>a</option><option selected>b</option></select></td><td></td></tr>
            <tr><td>28 Nov</td><td>–</td><td>12%</td><td><input type="checkbox" checked></td><td></td></tr>
          </tbody>
        </table>`),
    );
    expect(others).toEqual([]);
    expect(found).toEqual({
      name: "Approvals",
      table: {
        heads: ["Name", "Finish", "Cost", "Rate"],
        data: [
          ["Dig deep", "2026-11-28", 1_234_567.5, 12.5],
          ["Branch", null, -3, "b"],
          ["28 Nov", null, "12%", "yes"],
        ],
      },
    });
  });

  it("are called by themselves, by their part of the page, or by the heading above them", () => {
    const row = "<tbody><tr><td>1</td></tr></tbody>";
    const names = tablesOf(
      page(
        `<h1>Page</h1><table>${row}</table><section aria-label="Part"><table>${row}</table><table aria-label="Own">${row}</table></section>`,
      ),
    ).map(({ name }) => name);
    expect(names).toEqual(["Page", "Part", "Own"]);
  });

  it("are no command where there is none", () => {
    expect(tablesCommand(page("<p>nothing</p>"), "x")).toEqual([]);
    expect(tablesCommand(page("<table><tbody><tr><td>1</td></tr></tbody></table>"), "x")).toHaveLength(1);
  });
});
