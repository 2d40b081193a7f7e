/** Asks for a file on disk, or `photo`, for one that a phone takes now. Answers nothing when none is chosen. */
export function chooseFile(accept: string, from: 'disk' | 'photo' = 'disk'): Promise<File | undefined> {
  const input = document.createElement('input');
  input.type = 'file';
  input.accept = accept;
  // HTML Media Capture: the camera on the back of a phone; elsewhere it is let be.
  if (from === 'photo') input.setAttribute('capture', 'environment');
  return new Promise((resolve) => {
    input.addEventListener('change', () => resolve(input.files?.[0]));
    input.addEventListener('cancel', () => resolve(undefined));
    input.click();
  });
}

/** Asks for a file of text on disk and reads it. */
export const chooseText = async (accept: string): Promise<string | undefined> => (await chooseFile(accept))?.text();

/** Hands a file to the browser's own downloads. */
export function download(file: Blob, name: string): void {
  const address = URL.createObjectURL(file);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}
