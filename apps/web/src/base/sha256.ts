/** The SHA-256 of bytes (FIPS 180-4), in hex: the name that blobs are kept under. */
export async function sha256Of(bytes: BufferSource): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', bytes);
  return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('');
}
