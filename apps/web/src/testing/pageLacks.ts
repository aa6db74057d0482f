import { TextDecoder, TextEncoder } from "node:util";

// What a page of the tests lacks of a browser: it has no layout, and no dialogs.
if (typeof window !== "undefined") {
  Object.assign(globalThis, { TextEncoder, TextDecoder });
  globalThis.ResizeObserver = class {
    observe = (): void => undefined;
    unobserve = (): void => undefined;
    disconnect = (): void => undefined;
  };
  HTMLDialogElement.prototype.showModal = function showModal() {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = function close() {
    this.open = false;
  };
  Element.prototype.scrollIntoView = () => undefined;
}
