/** The part of the Web Cryptography API that is used: browsers and Node have it. */
interface Digests {
  readonly crypto: {
    readonly subtle: { readonly digest: (name: 'SHA-256', bytes: ArrayBufferView) => Promise<ArrayBuffer> };
  };
}

/** SHA-256 (FIPS 180-4), hexadecimal. */
export async function sha256(bytes: Uint8Array): Promise<string> {
  // the digest refuses shared memory
  const own = bytes.buffer instanceof ArrayBuffer ? bytes : bytes.slice();
  const digest = await (globalThis as unknown as Digests).crypto.subtle.digest('SHA-256', own);
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
}
