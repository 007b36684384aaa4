/** Reads STL files back, on its own terms: nothing of the writer is used. */
export interface ReadSolid {
  readonly positions: Float32Array;
  readonly triangles: Uint32Array;
}

const numbered = (positions: Float32Array): ReadSolid => ({
  positions,
  triangles: Uint32Array.from({ length: positions.length / 3 }, (_x, i) => i),
});

export function readBinary(bytes: Uint8Array): ReadSolid {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(80, true);
  const positions = new Float32Array(9 * count);
  for (let i = 0; i < count; i++)
    for (let k = 0; k < 9; k++) positions[9 * i + k] = view.getFloat32(84 + 50 * i + 12 + 4 * k, true);
  return numbered(positions);
}

export function readAscii(text: string): ReadSolid {
  const numbers = [...text.matchAll(/vertex (\S+) (\S+) (\S+)/g)].flatMap((match) =>
    match.slice(1).map(Number),
  );
  return numbered(Float32Array.from(numbers));
}
