declare module 'libheif-js/libheif-wasm/libheif-bundle.mjs' {
  interface HeifImage {
    get_width(): number;
    get_height(): number;
    display(into: ImageData, done: (filled: ImageData | null) => void): void;
    free(): void;
  }
  interface Heif {
    HeifDecoder: new () => { decode(bytes: Uint8Array): HeifImage[] };
  }
  export default function libheif(): Heif;
}
