import type { StateStorage } from 'zustand/middleware';

/** What the browser would not keep: it lasts as long as this tab. */
const aside = new Map<string, string>();

/**
 * What this browser keeps from one visit to the next. Where it keeps nothing for us (cookies are barred, its disk is full),
 * that lasts until the tab is closed.
 */
export const keptHere = {
  getItem(name) {
    try {
      return aside.get(name) ?? localStorage.getItem(name);
    } catch {
      return null;
    }
  },
  setItem(name, value) {
    try {
      localStorage.setItem(name, value);
      aside.delete(name);
    } catch {
      aside.set(name, value);
    }
  },
  removeItem(name) {
    aside.delete(name);
    try {
      localStorage.removeItem(name);
    } catch {
      // Nothing is kept of it.
    }
  },
} satisfies StateStorage;
