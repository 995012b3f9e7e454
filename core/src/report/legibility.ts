/** How readable one words layer is on the pixels behind it. */
export interface Legibility {
  readonly layer: string;
}
