import { isDeepStrictEqual } from "node:util";
import { stage } from "../testing/stage.ts";

it.each<[string, () => void]>([
  ["news are fetched", () => stage.session.follow(stage.server.revision)],
  [
    "one's own change is on its way",
    () => void stage.session.change([{ type: "setDuration", activity: "dig", minutes: 3360 }]),
  ],
  ["the plan is loaded anew", () => void stage.session.undo()],
])("what others store while %s comes in too, though nobody tells of it again", async (_when, go) => {
  await stage.session.change([{ type: "setDuration", activity: "paint", minutes: 960 }]);
  await stage.settled();
  stage.server.write([{ type: "setName", activity: "open", name: "Opened" }]);
  stage.server.meanwhile = Array.from({ length: 3 }, (_call, i) => () => {
    stage.server.write([{ type: "setName", activity: "pour", name: `Poured ${i}` }]);
    stage.session.follow(stage.server.revision);
  });
  go();
  await stage.until(
    () =>
      stage.session.snapshot().saving === 0 &&
      stage.session.snapshot().sheet!.rows[2]!.name === stage.server.plan.activities.get("pour")!.name,
  );
  await stage.until(() => isDeepStrictEqual(stage.session.snapshot().sheet!.rows, stage.asServer().rows));
});
