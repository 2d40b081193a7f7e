import { chooseFile, say, sayError } from '../look';
import type { PageSession } from '../session';
import { bringIn } from './bringIn';
import { takeTool, useDesk } from '../board';

/** Brings a file in as a rough and takes it in hand, or says why not. */
export async function takeRough(session: PageSession, file: File): Promise<void> {
  try {
    say(`Bringing in ${file.name}…`);
    const roughId = await bringIn(session, file);
    useDesk.setState({ roughId });
    takeTool('place-rough');
    say(`${file.name} is on the page, at half strength. Move it by its handles; lock it when it lies right.`);
  } catch (error) {
    sayError(error);
  }
}

/** Asks for a file on disk, or for a photo that is taken now, and brings it in. */
export async function chooseRough(session: PageSession, from: 'disk' | 'photo' = 'disk'): Promise<void> {
  const file = await chooseFile(
    from === 'photo' ? 'image/*' : 'image/png,image/jpeg,image/webp,image/svg+xml,.svg',
    from,
  );
  if (file) await takeRough(session, file);
}
