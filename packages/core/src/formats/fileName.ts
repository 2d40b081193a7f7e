/** What something is called, as a name that every file system takes: letters and digits, in lower case. */
export const plainName = (title: string): string =>
  title
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase() || 'page';
