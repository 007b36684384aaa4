/** What is used of gifenc, which has no types of its own. */
declare module 'gifenc' {
  type Palette = readonly (readonly number[])[];
  export function quantize(rgba: Uint8ClampedArray, colours: number): Palette;
  export function applyPalette(rgba: Uint8ClampedArray, palette: Palette): Uint8Array;
  export function GIFEncoder(): {
    writeFrame(
      index: Uint8Array,
      width: number,
      height: number,
      /** `delay` in ms; `repeat` 0 for ever. */
      options: { readonly delay: number; readonly palette?: Palette; readonly repeat?: number },
    ): void;
    finish(): void;
    bytes(): Uint8Array<ArrayBuffer>;
  };
}
