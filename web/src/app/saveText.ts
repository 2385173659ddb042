/** Saves a text, or bytes, where the browser saves files. */
export function saveText(content: string | Uint8Array, fileName: string, type: string): void {
  const url = URL.createObjectURL(new Blob([content as BlobPart], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  URL.revokeObjectURL(url);
}
