/** Reads a file's text as it comes in; what it finds goes to where its maker said. */
export interface TextReader {
  write(text: string): void;
  /** The file is over. */
  end(): void;
}
