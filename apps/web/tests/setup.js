// What a browser has and the test environment lacks.
const kept = new Map();
globalThis.localStorage = {
  getItem: (key) => kept.get(key) ?? null,
  setItem: (key, value) => kept.set(key, value),
  removeItem: (key) => kept.delete(key),
};
globalThis.HTMLElement ??= class {};
