import type { Attachment } from 'svelte/attachments';

let last: HTMLElement | undefined;
if (typeof document !== 'undefined') {
  document.addEventListener('focusin', (event) => {
    if (event.target instanceof HTMLElement && !event.target.closest('dialog')) last = event.target;
  });
}

/** A closed dialog leaves the focus on the page's body: this gives it back to the control that had it. */
export const focusBack: Attachment<HTMLElement> = () => {
  const before = last;
  return () => {
    if (before?.isConnected) {
      setTimeout(() => document.activeElement === document.body && before.focus());
    }
  };
};
