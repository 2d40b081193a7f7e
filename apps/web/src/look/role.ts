/** A colour of the desk by its role, as the style sheet has it now: for what cannot take a class. */
export const role = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
