// Both browsers and Node have these; the DOM library is left out so that core cannot lean on it.
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean });
  decode(bytes: Uint8Array): string;
}
declare function atob(base64: string): string;
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
