import { XMLParser } from 'fast-xml-parser';

/** An element of XML: its name without a prefix, its attributes and what lies in it. */
export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly XmlElement[];
  readonly text: string;
}

/** The elements of an XML text, one in the other; entities stand as they are written, or are read where the text may have none of its own. */
export const xmlTree = (text: string, readsEntities = false): XmlElement[] => {
  const parser = new XMLParser({
    ...{ ignoreAttributes: false, attributeNamePrefix: '', preserveOrder: true },
    processEntities: readsEntities,
  });
  const nodes: unknown = parser.parse(text);
  return elementsOf(nodes);
};

function elementsOf(nodes: unknown): XmlElement[] {
  if (!Array.isArray(nodes)) return [];
  return nodes.flatMap((node: unknown) => {
    if (typeof node !== 'object' || node === null) return [];
    const entries = Object.entries(node);
    const attributes = entries.find(([key]) => key === ':@')?.[1];
    return entries
      .filter(([key]) => key !== ':@' && key !== '#text')
      .map(([key, inner]) => ({
        name: key.replace(/^.*:/, ''),
        attributes: Object.fromEntries(Object.entries(attributes ?? {}).map(([k, v]) => [k, String(v)])),
        children: elementsOf(inner),
        text: textOf(inner),
      }));
  });
}

const textOf = (nodes: unknown): string =>
  Array.isArray(nodes)
    ? nodes
        .map((node: unknown) =>
          typeof node === 'object' && node !== null && '#text' in node ? String(node['#text']) : '',
        )
        .join('')
    : '';
