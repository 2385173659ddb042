/** A file that has come in whole. */
export interface UploadedFile {
  readonly size: number;
  /** Under which the operating system has it, as long as the work on it goes on: to read here and there in it. */
  readonly descriptor: number;
  readonly pieces: AsyncIterable<Uint8Array>;
}
