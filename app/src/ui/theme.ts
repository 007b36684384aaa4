/** Light or dark: as the system says, until the user says otherwise. */
import { useSyncExternalStore } from 'react';
import { keepLocalText, localText } from './local';

export type Theme = 'light' | 'dark';
const KEY = 'nematos:theme';
const system = window.matchMedia('(prefers-color-scheme: dark)');
/** As it was chosen on this page, which may have no room to keep it. */
let chosen: Theme | undefined;
const listeners = new Set<() => void>();

/** Whether the page is light or dark. */
export function currentTheme(): Theme {
  const kept = chosen ?? localText(KEY);
  if (kept === 'light' || kept === 'dark') return kept;
  return system.matches ? 'dark' : 'light';
}

function show(): void {
  document.documentElement.dataset.theme = currentTheme();
  listeners.forEach((listener) => listener());
}

/** Makes the page light or dark, and keeps that. */
export function setTheme(theme: Theme): void {
  chosen = theme;
  keepLocalText(KEY, theme);
  show();
}

/** Dresses the page as it was left, or as the system is. */
export function beginTheme(): void {
  system.addEventListener('change', show);
  show();
}

/** Whether the page is light or dark, as it changes. */
export const useTheme = (): Theme =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, currentTheme);

/** Shows the page light, as it is printed, until what it returns is called. */
export function lightForPrint(): () => void {
  document.documentElement.dataset.theme = 'light';
  return show;
}
