/** @jest-environment jsdom */
import { render, screen } from "@testing-library/react";
import { Messages } from "./Messages.tsx";
import { toast } from "./toast.ts";

let mockTries = 0;
jest.mock("./ShownMessages.tsx", () => {
  if (mockTries++ === 0) throw new TypeError("Failed to fetch dynamically imported module");
  return jest.requireActual<object>("./ShownMessages.tsx");
});

it("a message of a page that lost its connection is told once that is back, and the page stays", async () => {
  render(
    <>
      <p>The page</p>
      <Messages />
    </>,
  );
  toast.error("It could not be kept.");
  await screen.findByText("It could not be kept.", undefined, { timeout: 5_000 });
  expect(mockTries).toBeGreaterThan(1);
  expect(screen.getByText("The page")).toBeTruthy();
});
