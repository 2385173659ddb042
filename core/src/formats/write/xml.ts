const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
};

/** A text as XML takes it; what XML can't hold at all is dropped. */
export function escapeXml(text: string): string {
  return (
    text
      // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is to go
      .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
      .replace(/[&<>"]/g, (character) => ESCAPES[character] ?? character)
  );
}

/** An element with a text. @example element('NAME', 'A & B') // '<NAME>A &amp; B</NAME>' */
export function element(name: string, text: string): string {
  return `<${name}>${escapeXml(text)}</${name}>`;
}
