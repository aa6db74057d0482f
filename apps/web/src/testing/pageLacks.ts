import { TextDecoder, TextEncoder } from "node:util";

// What a page of the tests lacks of a browser: it has no layout, and no dialogs.
if (typeof window !== "undefined") {
  Object.assign(globalThis, { TextEncoder, TextDecoder });
  // The router describes a page that is gone to by one, and reads no more of it than this.
  globalThis.Request = class {
    readonly url: string;
    readonly method: string;
    readonly signal: AbortSignal | null;
    constructor(url: string | URL, { method = "GET", signal = null }: RequestInit = {}) {
      this.url = String(url);
      this.method = method;
      this.signal = signal;
    }
  } as never;
  globalThis.ResizeObserver = class {
    observe = (): void => undefined;
    unobserve = (): void => undefined;
    disconnect = (): void => undefined;
  };
  HTMLDialogElement.prototype.showModal = function showModal() {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = function close() {
    if (!this.open) return;
    this.open = false;
    this.dispatchEvent(new Event("close"));
  };
  Element.prototype.scrollIntoView = () => undefined;
}
