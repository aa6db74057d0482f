import type { Change } from "@chronometra/core";
import { Outbox } from "./session/outbox.ts";
import { stage } from "../testing/stage.ts";

/** The page is left, and the plan opened anew. */
const again = async (): Promise<void> => {
  stage.session.end();
  stage.session = await stage.open();
};
const rowOf = (id: string) => stage.asServer().rows.find((row) => row.id === id)!;
const named = (id: string, name: string): Change => ({ type: "setName", activity: id, name });

it("what was done is taken back, and done again, after the page was left; others' work in between stays", async () => {
  await stage.session.change([{ type: "setDuration", activity: "dig", minutes: 3360 }]);
  await stage.session.change([named("paint", "Paint twice")]);
  await stage.settled();
  await stage.session.undo();
  await stage.settled();
  await again();
  expect(stage.session.snapshot()).toMatchObject({ undoable: 1, redoable: 1 });
  stage.server.write([named("pour", "Pour at night")]);
  await stage.session.undo();
  await stage.settled();
  expect([stage.server.plan.activities.get("dig")!.durationMinutes, rowOf("pour").name, rowOf("paint").name]).toEqual([
    2400,
    "Pour at night",
    "Paint",
  ]);
  await stage.session.redo();
  await stage.session.redo();
  await stage.settled();
  expect([stage.server.plan.activities.get("dig")!.durationMinutes, rowOf("paint").name]).toEqual([
    3360,
    "Paint twice",
  ]);
  expect(stage.session.snapshot()).toMatchObject({ undoable: 2, redoable: 0 });
});

it("what someone else has written over meanwhile is not taken back, and stays to be seen", async () => {
  await stage.session.change([named("paint", "Paint twice")]);
  await stage.settled();
  await again();
  stage.server.write([named("paint", "Paint thrice")]);
  await stage.session.undo();
  await stage.settled();
  expect(rowOf("paint").name).toBe("Paint thrice");
  expect(stage.session.snapshot()).toMatchObject({ undoable: 1, refused: [expect.anything()] });
});

it("what was refused is nothing to take back later, and of much only the latest is kept", async () => {
  await stage.session.change([named("paint", "Paint twice")]);
  await stage.settled();
  const lists = Array.from({ length: 60 }, (_, i) => ({ list: `l${i}`, inverse: [named("paint", String(i))] }));
  const outbox = new Outbox(stage.keeper);
  for (const { list } of lists.slice(10)) outbox.stored(list, 5);
  outbox.remember({ done: lists, undone: [] });
  expect(new Outbox(stage.keeper).undoable.done.map(({ list }) => list)).toEqual(
    lists.slice(20).map(({ list }) => list),
  );
  outbox.remember({
    done: [
      { list: "l59", inverse: [named("paint", "x".repeat(400_000))] },
      { list: "never stored", inverse: [] },
    ],
    undone: [],
  });
  expect(new Outbox(stage.keeper).undoable.done).toEqual([]);
});
