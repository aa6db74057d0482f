/** @jest-environment jsdom */
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { NameChoice } from "./NameChoice.tsx";

const CRANE = { id: "c", name: "Book the crane" };

describe("a thing chosen by its name", () => {
  it("is told once its name is whole, and taken back once it is not", async () => {
    const onChoose = jest.fn();
    render(<NameChoice label="Work" things={[CRANE]} onChoose={onChoose} />);
    await userEvent.type(screen.getByLabelText("Work"), "Book the crane");
    expect(onChoose.mock.calls).toEqual([["c"]]);
    await userEvent.type(screen.getByLabelText("Work"), "s");
    expect(onChoose.mock.calls).toEqual([["c"], [null]]);
  });

  it("is told when its name was typed before the things had arrived", async () => {
    const onChoose = jest.fn();
    const { rerender } = render(<NameChoice label="Work" things={[]} onChoose={onChoose} />);
    await userEvent.type(screen.getByLabelText("Work"), "Book the crane");
    expect(onChoose).not.toHaveBeenCalled();
    rerender(<NameChoice label="Work" things={[CRANE]} onChoose={onChoose} />);
    expect(onChoose.mock.calls).toEqual([["c"]]);
  });
});
