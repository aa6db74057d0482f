/** @jest-environment jsdom */
import { act, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Messages } from "./Messages.tsx";
import { toast } from "./toast.ts";

const once = jest.fn();

describe("messages at the foot of a page", () => {
  it("waits with the first until what shows it has come", async () => {
    toast("Told before anything was there.");
    render(<Messages />);
    await screen.findByText("Told before anything was there.");
  });

  it("tells failures, and offers what can be done", async () => {
    render(<Messages />);
    act(() => toast.error("It was refused.", { action: { label: "Again", onClick: once } }));
    await screen.findByText("It was refused.");
    act(() => screen.getByRole("button", { name: "Again" }).focus());
    await userEvent.keyboard("{Enter}");
    expect(once).toHaveBeenCalledTimes(1);
  });
});
