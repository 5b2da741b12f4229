export type Mode = 'light' | 'dark' | 'auto';

/** Light, dark or as the system; remembered in this browser, and applied before the first paint by mode.js. */
export function setMode(mode: Mode): void {
  localStorage.setItem('ordinator-mode', mode);
  const dark = mode === 'dark' || (mode === 'auto' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.classList.toggle('dark', dark);
}
