import { checkOwnTemplate, templateToJson, TEMPLATES, type Template } from '@true-nib/core/templates';
import { keptStore } from '../base';
import { isRefusal, request, requestJson } from '../api';
import { say } from '../look';

type Kept = ReturnType<typeof templateToJson>;

interface OwnTemplates {
  /** As plain JSON, so that the browser can keep what the server has not heard of. */
  readonly own: readonly Kept[];
  readonly unsent: readonly string[];
  readonly dropped: readonly string[];
}

/** Templates of one's own, besides those that come with the desk: kept on the server, and here until they are. */
export const useOwnTemplates = keptStore<OwnTemplates>({
  name: 'true-nib.templates',
  version: 1,
  fresh: { own: [], unsent: [], dropped: [] },
  kept: ['own', 'unsent', 'dropped'],
});

/** All templates: those of one's own first. */
export const allTemplates = (own: OwnTemplates['own']): readonly Template[] => [
  ...own.map((one) => checkOwnTemplate(one)),
  ...TEMPLATES,
];

export const templateById = (id: string): Template | undefined =>
  allTemplates(useOwnTemplates.getState().own).find((template) => template.id === id);

export function addTemplate(template: Template): void {
  const { own, unsent } = useOwnTemplates.getState();
  useOwnTemplates.setState({ own: [templateToJson(template), ...own], unsent: [...unsent, template.id] });
  void sendTemplates();
}

export function dropTemplate(id: string): void {
  const { own, unsent, dropped } = useOwnTemplates.getState();
  useOwnTemplates.setState({
    own: own.filter((one) => one.id !== id),
    unsent: unsent.filter((one) => one !== id),
    dropped: [...dropped, id],
  });
  void sendTemplates();
}

/** Tells the server what it has not heard of; what cannot be sent goes the next time. */
async function sendTemplates(): Promise<void> {
  try {
    for (const id of useOwnTemplates.getState().dropped) {
      await request(`/templates/${id}`, { method: 'DELETE' });
      useOwnTemplates.setState(({ dropped }) => ({ dropped: dropped.filter((one) => one !== id) }));
    }
    for (const id of useOwnTemplates.getState().unsent) {
      const one = useOwnTemplates.getState().own.find((template) => template.id === id);
      // One that the server refuses for good must not hold up those behind it.
      if (one)
        await requestJson(`/templates/${id}`, 'PUT', one).catch((error: unknown) => {
          if (!isRefusal(error)) throw error;
          say(`The template "${one.name}" cannot be kept. ${error.message}`);
        });
      useOwnTemplates.setState(({ unsent }) => ({ unsent: unsent.filter((other) => other !== id) }));
    }
  } catch {
    // Kept here until the server answers.
  }
}

/** Brings the templates here and on the server together, once a board is open. */
export function keepTemplates(): void {
  void sendTemplates()
    .then(() => request('/templates'))
    .then((response) => response.json())
    .then((answer: unknown) => {
      if (!Array.isArray(answer)) return;
      const theirs = answer.map((one) => templateToJson(checkOwnTemplate(one)));
      const { own, unsent, dropped } = useOwnTemplates.getState();
      const waiting = own.filter(({ id }) => unsent.includes(id));
      const known = new Set([...waiting.map(({ id }) => id), ...dropped]);
      useOwnTemplates.setState({ own: [...waiting, ...theirs.filter(({ id }) => !known.has(id))] });
    })
    .catch(() => undefined);
}
