/** Whether whatever had the keyboard is gone. */
export const lostFocus = (): boolean => document.activeElement === null || document.activeElement === document.body;

/** Gives the keyboard to the page, which is worked on next. */
export const focusPage = (): void => document.getElementById("content")?.focus({ preventScroll: true });
