/** Light or dark: as the system says, until the user says otherwise. */
import { useSyncExternalStore } from 'react';

export type Theme = 'light' | 'dark';
const KEY = 'nematos:theme';
const system = window.matchMedia('(prefers-color-scheme: dark)');
const listeners = new Set<() => void>();

export function currentTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === 'light' || kept === 'dark') return kept;
  return system.matches ? 'dark' : 'light';
}

function show(): void {
  document.documentElement.dataset.theme = currentTheme();
  listeners.forEach((listener) => listener());
}

export function setTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  show();
}

export function beginTheme(): void {
  system.addEventListener('change', show);
  show();
}

export const useTheme = (): Theme =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, currentTheme);
