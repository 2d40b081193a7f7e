import { Asset } from 'expo-asset';
import { AtkinsonHyperlegible_400Regular } from '@expo-google-fonts/atkinson-hyperlegible/400Regular';
import { AtkinsonHyperlegible_700Bold } from '@expo-google-fonts/atkinson-hyperlegible/700Bold';
import { Bangers_400Regular } from '@expo-google-fonts/bangers/400Regular';
import { ComicNeue_400Regular } from '@expo-google-fonts/comic-neue/400Regular';
import { ComicNeue_400Regular_Italic } from '@expo-google-fonts/comic-neue/400Regular_Italic';
import { ComicNeue_700Bold } from '@expo-google-fonts/comic-neue/700Bold';
import { ComicNeue_700Bold_Italic } from '@expo-google-fonts/comic-neue/700Bold_Italic';
import { Kalam_400Regular } from '@expo-google-fonts/kalam/400Regular';
import { Kalam_700Bold } from '@expo-google-fonts/kalam/700Bold';
import { PatrickHand_400Regular } from '@expo-google-fonts/patrick-hand/400Regular';
import { FONT_TYPE, type FontFaces, type FontRef } from '@true-nib/core/lettering';
import type { LetterFont, ReadFonts } from '@true-nib/core/typeset';
import type { PageSession } from '../../session';

const fetchTypesetter = () => import('@true-nib/core/typeset');

/** What sets type: fetched when it is first needed. */
export type Typesetter = Awaited<ReturnType<typeof fetchTypesetter>>;

let fetched: Promise<Typesetter> | undefined;

export function typesetter(): Promise<Typesetter> {
  fetched ??= fetchTypesetter().catch((error: unknown) => {
    fetched = undefined;
    throw error;
  });
  return fetched;
}

type Style = keyof FontFaces;

/** A family that ships with the app, all under the SIL Open Font Licence. */
export interface Family {
  readonly id: string;
  readonly name: string;
  readonly files: Readonly<Partial<Record<Style, number>>> & { readonly plain: number };
}

export const FAMILIES: readonly Family[] = [
  {
    ...{ id: 'comic-neue', name: 'Comic Neue' },
    files: {
      plain: ComicNeue_400Regular,
      bold: ComicNeue_700Bold,
      italic: ComicNeue_400Regular_Italic,
      boldItalic: ComicNeue_700Bold_Italic,
    },
  },
  { id: 'patrick-hand', name: 'Patrick Hand', files: { plain: PatrickHand_400Regular } },
  { id: 'kalam', name: 'Kalam', files: { plain: Kalam_400Regular, bold: Kalam_700Bold } },
  { id: 'bangers', name: 'Bangers', files: { plain: Bangers_400Regular } },
  {
    ...{ id: 'atkinson', name: 'Atkinson' },
    files: { plain: AtkinsonHyperlegible_400Regular, bold: AtkinsonHyperlegible_700Bold },
  },
];

/** A family as pages name it, and read. */
export interface Faces {
  readonly refs: FontFaces;
  readonly fonts: ReadFonts;
}

interface Face {
  readonly ref: FontRef;
  readonly font: LetterFont;
  readonly bytes: Uint8Array<ArrayBuffer>;
}

/** Fonts that were read, by their SHA-256, and files by where they come from. */
const read = new Map<string, LetterFont>();
const files = new Map<number, Promise<Face>>();

const sha256Of = async (bytes: BufferSource): Promise<string> =>
  [...new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))]
    .map((byte) => byte.toString(16).padStart(2, '0'))
    .join('');

async function faceFrom(bytes: Uint8Array<ArrayBuffer>): Promise<Face> {
  const { readFont } = await typesetter();
  const font = readFont(bytes);
  const sha256 = await sha256Of(bytes);
  read.set(sha256, font);
  return { ref: { sha256, name: font.name }, font, bytes };
}

function shipped(file: number): Promise<Face> {
  let face = files.get(file);
  if (!face) {
    face = fetch(Asset.fromModule(file).uri)
      .then(async (answer) => {
        if (!answer.ok) throw new Error('This font could not be fetched. Try again once the server answers.');
        return faceFrom(new Uint8Array(await answer.arrayBuffer()));
      })
      .catch((error: unknown) => {
        files.delete(file);
        throw error;
      });
    files.set(file, face);
  }
  return face;
}

/** A family that ships with the app, read; its bytes are kept with the page. Throws where it cannot be fetched. */
export async function shippedFaces(session: PageSession, id: string): Promise<Faces> {
  const { files: own } = FAMILIES.find((family) => family.id === id) ?? FAMILIES[0];
  const plain = await shipped(own.plain);
  const [bold, italic, boldItalic] = await Promise.all(
    [own.bold, own.italic, own.boldItalic].map((file) => (file === undefined ? undefined : shipped(file))),
  );
  for (const face of [plain, bold, italic, boldItalic]) if (face) await keep(session, face);
  return {
    refs: {
      plain: plain.ref,
      ...(bold && { bold: bold.ref }),
      ...(italic && { italic: italic.ref }),
      ...(boldItalic && { boldItalic: boldItalic.ref }),
    },
    fonts: { plain: plain.font, bold: bold?.font, italic: italic?.font, boldItalic: boldItalic?.font },
  };
}

const kept = new WeakMap<PageSession, Set<string>>();

/** Bytes go to the server before a change that names them. */
async function keep(session: PageSession, { ref, bytes }: Face): Promise<void> {
  const known = kept.get(session) ?? new Set<string>();
  kept.set(session, known);
  if (known.has(ref.sha256)) return;
  const blob = new Blob([bytes], { type: FONT_TYPE });
  await session.keepBlob(ref.sha256, blob).catch(() => session.sendBlob(ref.sha256, blob));
  known.add(ref.sha256);
}

/** A font file of one's own, read and kept. Throws a PageError that says why it cannot be. */
export async function ownFace(session: PageSession, file: Blob): Promise<FontRef> {
  const face = await faceFrom(new Uint8Array(await file.arrayBuffer()));
  await keep(session, face);
  return face.ref;
}

/** The fonts that a text of the page names, read. Throws where one is not there. */
export async function facesOf(session: PageSession, refs: FontFaces): Promise<ReadFonts> {
  const font = async (ref: FontRef | undefined): Promise<LetterFont | undefined> => {
    if (!ref) return undefined;
    const known = read.get(ref.sha256);
    if (known) return known;
    const blob = await session.blob(ref.sha256);
    return (await faceFrom(new Uint8Array(await blob.arrayBuffer()))).font;
  };
  const [plain, bold, italic, boldItalic] = await Promise.all(
    [refs.plain, refs.bold, refs.italic, refs.boldItalic].map(font),
  );
  if (!plain) throw new Error(`The font ${refs.plain.name} is not there.`);
  return { plain, bold, italic, boldItalic };
}
