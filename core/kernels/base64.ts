const shared = globalThis as unknown as { atob(base64: string): string };

/** Bytes that lie in the code as text: there they cost nothing until they are read. @throws DOMException for what is no base64 */
export const bytesFromBase64 = (base64: string): Uint8Array =>
  Uint8Array.from(shared.atob(base64), (letter) => letter.charCodeAt(0));
