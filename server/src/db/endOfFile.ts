import { existsSync } from 'node:fs';
import { open } from 'node:fs/promises';

/** So many bytes of a file are its end. */
const END = 2_000;

/** The end of a text file, which may be larger than fits into memory; empty where there is none. */
export async function endOfFile(path: string): Promise<string> {
  if (!existsSync(path)) return '';
  const file = await open(path);
  try {
    const { size } = await file.stat();
    const length = Math.min(END, size);
    const { buffer } = await file.read(Buffer.alloc(length), 0, length, size - length);
    return buffer.toString();
  } finally {
    await file.close();
  }
}
