import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { answersAnew } from "./answersAnew.ts";

/** A page that asks for what the server holds; the server answers when it is told to. */
function asking() {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  answersAnew(client);
  const held: { what: string; asked: (() => void)[] } = { what: "before", asked: [] };
  const queryFn = () => {
    const what = held.what;
    return new Promise<string>((resolve) => held.asked.push(() => resolve(what)));
  };
  const page = new QueryObserver(client, { queryKey: ["plan"], queryFn });
  const leave = page.subscribe(() => undefined);
  const answer = async (): Promise<void> => {
    held.asked.shift()?.();
    await new Promise((resolve) => setTimeout(resolve, 5));
  };
  return { client, held, page, answer, leave };
}

test("a first answer that was given before a change is not kept", async () => {
  const { client, held, page, answer, leave } = asking();
  held.what = "after";
  void client.invalidateQueries({ queryKey: ["plan"] });
  await answer();
  expect(page.getCurrentResult().data).toBe("before");
  await answer();
  expect(page.getCurrentResult().data).toBe("after");
  expect(held.asked).toHaveLength(0);
  leave();
});

test("an answer that nothing has overtaken is asked for once", async () => {
  const { held, page, answer, leave } = asking();
  await answer();
  expect(page.getCurrentResult().data).toBe("before");
  expect(held.asked).toHaveLength(0);
  leave();
});

test("a change while nothing is asked is no reason to ask later", async () => {
  const { client, held, page, answer, leave } = asking();
  await answer();
  held.what = "after";
  void client.invalidateQueries({ queryKey: ["plan"] });
  await answer();
  expect(page.getCurrentResult().data).toBe("after");
  expect(held.asked).toHaveLength(0);
  leave();
});
