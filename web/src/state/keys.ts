/** Keys that belong to the page, not to a field that is being typed in or an open dialog. */
export function free(event: Event): boolean {
  const at = event.target;
  if (!(at instanceof HTMLElement)) return true;
  if (document.querySelector('dialog[open]')) return false;
  return !at.closest('input:not([type=checkbox]), textarea, select, [contenteditable=true]');
}

/** How long `g` waits for the letter of a view. */
const LEADS_FOR = 1000;
let previous = { key: '', at: 0 };
let afterG = false;
window.addEventListener(
  'keydown',
  (event) => {
    afterG = previous.key === 'g' && event.timeStamp - previous.at < LEADS_FOR;
    previous = { key: event.key, at: event.timeStamp };
  },
  true
);

/** Keys of a view itself: not the letter that after `g` leads to another view. */
export const mine = (event: Event): boolean => free(event) && !afterG;

/** After moving in a list, Enter means the list's row, not a button pressed before. */
export function toTheList(): void {
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
}

export interface KeyHelp {
  keys: string;
  does: string;
}

/** What `?` shows; the views' own keys come after these. */
export const GENERAL_KEYS: KeyHelp[] = [
  { keys: '/', does: 'find anything' },
  { keys: 'Ctrl K', does: 'commands' },
  { keys: 'g t', does: 'Today' },
  { keys: 'g o', does: 'Orders' },
  { keys: 'g d', does: 'Dispatch' },
  { keys: 'g s', does: 'Stock' },
  { keys: 'g c', does: 'Channels' },
  { keys: 'g r', does: 'Rulebook' },
  { keys: 'g n', does: 'Network' },
  { keys: 'n', does: 'in Orders: an order by telephone; in the Rulebook: a rule' },
  { keys: 'Alt ↑ ↓', does: 'in the Rulebook: the rule goes up or down' },
  { keys: 'd o Del', does: 'in the Rulebook: write the rule again, on or off, take it out' },
  { keys: 'j k', does: 'down and up' },
  { keys: 'x', does: 'select' },
  { keys: 'Enter', does: 'open' },
  { keys: 'e', does: 'do the first thing suggested' },
  { keys: 'Esc', does: 'back' },
  { keys: '?', does: 'these keys' }
];
