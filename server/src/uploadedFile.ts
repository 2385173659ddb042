/** A file that has come in whole. */
export interface UploadedFile {
  readonly size: number;
  readonly pieces: AsyncIterable<Uint8Array>;
}
