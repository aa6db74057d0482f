import { stage } from "../testing/stage.ts";

it("a list of very many changes is there and told of in a moment, for what is typed meanwhile, and stored like any other", async () => {
  let told = 0;
  stage.session.subscribe(() => told++);
  await stage.session.change(
    Array.from({ length: 600 }, (_, i) => ({ type: "setDuration", activity: "dig", minutes: 480 + i })),
  );
  const before = told;
  expect(stage.session.snapshot().saving).toBe(1);
  await stage.settled();
  expect([told > before, stage.server.revision]).toEqual([true, 2]);
  expect(stage.session.snapshot().sheet).toEqual(stage.asServer());
});
