/** By these keys what the server has is kept here, and asked for anew: naming `shelf` is naming all that lies on it. */
export const KEYS = {
  shelf: ['shelf'],
  folios: ['shelf', 'folios'],
  folio: (id: string) => ['shelf', 'folio', id],
  blacks: (id: string) => ['shelf', 'folio', id, 'blacks'],
  lettering: (id: string) => ['shelf', 'folio', id, 'lettering'],
  left: ['shelf', 'left'],
  rack: ['rack'],
  templates: ['templates'],
  sets: ['sets'],
} as const;
