/** An answer of the server, where the page that is tested has no such thing of its own. */
export const responseOf = (status: number, body: unknown): Response =>
  ({
    ok: status >= 200 && status < 300,
    status,
    statusText: "",
    headers: new Headers({ "content-type": "application/json" }),
    text: async () => JSON.stringify(body),
    json: async () => JSON.parse(JSON.stringify(body)) as unknown,
    clone: () => responseOf(status, body),
  }) as unknown as Response;
