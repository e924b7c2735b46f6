declare module 'subset-font' {
  /** The face cut down to these letters. */
  export default function subsetFont(
    face: Buffer,
    letters: string,
    options: { targetFormat: 'woff2' },
  ): Promise<Buffer>
}
